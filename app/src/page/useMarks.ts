import { useState } from 'react';
import type { CoverFill, Mark, MarkColour, Page } from '@libretto/model';
import { setMarks } from '../store/editing';
import { newId } from '../store/ids';
import { useAppDispatch, useAppStore } from '../store/store';
import { dayInFigures } from '../ui/words/format';
import { belong, keepSignature, keptSignature, type Signature } from '../work/signature';
import type { Places } from '../work/usePlaces';
import { shifted } from './markChanges';
import { firstChoice, sizesPt, toolOf, type ToolChoice } from './markTools';

/** How far a copy lies from its like, mm. */
const placesAsideMm = 6;

interface Noting {
  at: [number, number];
  along: [number, number];
  mark?: Mark & { kind: 'note' };
}

/** What the marks of a page need while they are put on and changed. */
export function useMarks(page: Page) {
  const dispatch = useAppDispatch();
  const store = useAppStore();
  const [choice, setChoice] = useState<ToolChoice>(firstChoice);
  const [selected, setSelected] = useState<string | null>(null);
  const [noting, setNoting] = useState<Noting | null>(null);
  // As the page is by now: a quick hand puts on the next one before the last is stored.
  const now = () => store.getState().library.page[page.id] ?? page;
  const marksNow = () => now().recipe?.marks ?? [];
  const add = (...more: Mark[]) => {
    void dispatch(setMarks(now(), [...marksNow(), ...more]));
    const [part] = more;
    if (part?.kind !== 'part') return;
    // What was drawn round is taken hold of: it has not gone anywhere yet.
    setChoice((chosen) => ({ ...chosen, id: 'select' }));
    setSelected(part.id);
  };
  const change = (...changed: Mark[]) => void dispatch(setMarks(now(), marksNow().map((m) => changed.find((c) => c.id === m.id) ?? m), 'markChange')); // prettier-ignore
  const [signature, setSignature] = useState(keptSignature);
  const [signing, setSigning] = useState(false);
  const marks = page.recipe?.marks ?? [];
  return {
    choice,
    choose: (next: ToolChoice) => {
      setChoice(next);
      if (next.id !== 'select') setSelected(null);
    },
    tool: toolOf(choice, signature),
    signing,
    sign: () => setSigning(true),
    keepSignature: (next: Signature | null) => {
      keepSignature(next);
      setSignature(next);
      setSigning(false);
    },
    endSigning: () => setSigning(false),
    signature,
    selected: marks.some((m) => m.id === selected) ? selected : null,
    held: marks.find((m) => m.id === selected) ?? null,
    select: setSelected,
    add,
    change,
    /** One more like it, a little aside. */
    copy: (mark: Mark, places: Places) => {
      const by = [placesAsideMm / places.widthMm, placesAsideMm / places.heightMm] as const;
      const group = newId();
      const more = marksNow().filter((m) => belong(m, mark)).map((m) => ({ ...shifted(m, places.map, by), id: newId(), ...('group' in m && m.group && { group }) })) as Mark[]; // prettier-ignore
      add(...more);
      setSelected(more[0]?.id ?? null);
    },
    restyle: (mark: Mark, style: { colour?: MarkColour; widthMm?: number; sizePt?: number; fill?: CoverFill; stays?: boolean }) =>
      change(...marksNow().filter((m) => belong(m, mark)).map((m) => ({ ...m, ...style }) as Mark)), // prettier-ignore
    remove: (id: string) => {
      setSelected(null);
      void dispatch(setMarks(now(), marksNow().filter((m) => !belong(m, marksNow().find((k) => k.id === id) ?? m)), 'markDelete')); // prettier-ignore
    },
    noting,
    note: (at: [number, number], along: [number, number]) => {
      if (choice.writes === 'date')
        add({ kind: 'note', id: newId(), at, along, text: dayInFigures(new Date()), sizePt: sizesPt[choice.width], colour: choice.colours.note }); // prettier-ignore
      // None is kept yet: it is drawn first.
      else if (choice.writes === 'signature') setSigning(true);
      else setNoting({ at, along });
    },
    edit: (mark: Mark) => 'text' in mark && setNoting({ at: mark.at, along: mark.along, mark }),
    keepNote: (text: string) => {
      if (noting?.mark) change({ ...noting.mark, text });
      else if (noting) add({ kind: 'note', id: newId(), at: noting.at, along: noting.along, text, sizePt: sizesPt[choice.width], colour: choice.colours.note }); // prettier-ignore
      setNoting(null);
    },
    endNote: () => setNoting(null),
  };
}
