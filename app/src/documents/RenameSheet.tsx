import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { Checkbox, Text } from 'react-native-paper';
import { patternIn, type Summary } from '@libretto/model';
import { renameDocuments } from '../store/editing';
import { foldersOf } from '../store/filing';
import { settingsId } from '../store/library';
import { openDocument } from '../store/open';
import { useApp, useAppDispatch, useAppStore } from '../store/store';
import { Action } from '../ui/Action';
import { PressRow } from '../ui/PressRow';
import { Sheet } from '../ui/Sheet';
import { Spinner } from '../ui/Spinner';
import { useTokens } from '../ui/theme';
import { useSay } from '../ui/words/words';
import { suggestionsIn } from '../work/suggesting';
import { isReadable, readText } from '../work/reading';
import { nameFrom } from './readNames';
import { usePattern } from './usePattern';

interface Found {
  name: string;
  /** Something in it was read, and not beyond doubt. */
  unsure: boolean;
}

/** Names by the pattern for several documents, read off their first pages: each beside its old one, to be left out or taken; all in one step. */
export function RenameSheet({
  documents,
  onClose,
  onDone,
}: {
  documents: readonly Summary[];
  onClose: () => void;
  onDone: () => void;
}) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const store = useAppStore();
  const everywhere = usePattern();
  const folders = useApp(foldersOf);
  const [found, setFound] = useState<Record<string, Found | null>>({});
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  useEffect(() => {
    let gone = false;
    void (async () => {
      for (const { id, createdAt, folder } of documents) {
        await dispatch(openDocument(id));
        const { document, page } = store.getState().library;
        const first = page[document[id]?.pageIds[0] ?? ''];
        const text = isReadable(first) ? await dispatch(readText(first)).catch(() => null) : null;
        if (gone) return;
        const { name, unsure, read } = nameFrom(
          suggestionsIn(text, store.getState().library.settings[settingsId]!.senders),
          patternIn(folders, folder, everywhere),
          createdAt,
        );
        setFound((all) => ({ ...all, [id]: read && name ? { name, unsure } : null }));
        // Nobody takes a doubtful name unseen.
        if (unsure) setLeft((all) => new Set([...all, id]));
      }
    })();
    return () => void (gone = true);
    // Read once, when the sheet opens.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  const names = numbered(documents.flatMap((d) => (found[d.id] ? [{ id: d.id, name: found[d.id]!.name }] : [])));
  const taken = documents.flatMap((d) => {
    const name = names.get(d.id);
    return name && name !== d.name && !left.has(d.id) ? [{ id: d.id, before: d.name, name }] : [];
  });
  const reading = documents.some((d) => !(d.id in found));
  return (
    <Sheet title={say('renaming.title', { count: documents.length })} onClose={onClose}>
      <Text style={{ color: t.pencil }}>{say('renaming.about')}</Text>
      <View
        role="group"
        aria-label={say('renaming.title', { count: documents.length })}
        style={{ maxHeight: 380, overflow: 'scroll' }}
      >
        {documents.map((d) => {
          const name = names.get(d.id);
          const on = Boolean(name && name !== d.name && !left.has(d.id));
          const label = name ? say('renaming.row', { before: d.name, after: name }) : d.name;
          const toggle = () => setLeft((all) => new Set(all.has(d.id) ? [...all].filter((id) => id !== d.id) : [...all, d.id]));
          return (
            <PressRow
              key={d.id}
              role="checkbox"
              checked={on}
              label={label}
              onPress={toggle}
              style={{ gap: 10, minHeight: 56, borderBottomWidth: 1, borderColor: t.hairline }}
            >
              <View style={{ flex: 1, minWidth: 0 }}>
                <Text variant="bodySmall" numberOfLines={1} style={{ color: t.pencil }}>
                  {d.name}
                </Text>
                {!(d.id in found) ? (
                  <Spinner label={say('text.reading')} />
                ) : (
                  <Text variant={on ? 'labelLarge' : 'bodyLarge'} style={{ color: found[d.id]?.unsure ? t.brass : t.ink }}>
                    {name ?? say('renaming.nothing')}
                  </Text>
                )}
              </View>
              {name && name !== d.name ? <Checkbox status={on ? 'checked' : 'unchecked'} /> : null}
            </PressRow>
          );
        })}
      </View>
      <Action
        tall
        main
        disabled={!taken.length || reading}
        onPress={() => {
          void dispatch(renameDocuments(taken));
          onDone();
        }}
      >
        {say('renaming.use', { count: taken.length })}
      </Action>
      <Action onPress={onClose}>{say('common.cancel')}</Action>
    </Sheet>
  );
}

/** Names of which none comes twice: the second gets a number. */
function numbered(names: readonly { id: string; name: string }[]): Map<string, string> {
  const out = new Map<string, string>();
  const taken = new Set<string>();
  for (const { id, name } of names) {
    let tried = name;
    for (let n = 2; taken.has(tried.toLowerCase()); n++) tried = `${name} (${n})`;
    taken.add(tried.toLowerCase());
    out.set(id, tried);
  }
  return out;
}
