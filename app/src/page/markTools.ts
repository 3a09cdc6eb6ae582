import type { CoverFill, MarkColour } from '@libretto/model';
import type { Signature } from '../work/signature';

/** What is put on the page by the next touch. */
export type MarkTool =
  | { kind: 'select' }
  | { kind: 'ink' | 'highlight'; widthMm: number; colour: MarkColour }
  | { kind: 'note'; writes: NoteKind; sizePt: number; colour: MarkColour }
  | { kind: 'signature'; signature: Signature; widthMm: number; colour: MarkColour }
  | { kind: 'line' | 'arrow' | 'box' | 'tick' | 'cross'; widthMm: number; colour: MarkColour }
  | { kind: 'cover'; fill: CoverFill; outside: boolean }
  | { kind: 'part' };

/** The strip of tools; some hold several marks. */
export const toolIds = ['pen', 'highlight', 'note', 'shapes', 'cover', 'select'] as const;
export type ToolId = (typeof toolIds)[number];

export const shapes = ['line', 'arrow', 'box', 'tick', 'cross'] as const;
/** Three widths of each, mm. */
export const widthsMm = { pen: [0.35, 0.8, 1.8], highlight: [3, 5, 9], shapes: [0.35, 0.8, 1.8] } as const;
/** What a note writes: what is typed, today's date, or the signature that is kept on this device. */
export const noteKinds = ['text', 'date', 'signature'] as const;
export type NoteKind = (typeof noteKinds)[number];
/** How wide a signature is put on, mm. */
export const signaturesMm = [30, 45, 65] as const;
export const sizesPt = [10, 14, 20] as const;

export interface ToolChoice {
  id: ToolId;
  /** Which of the three widths or sizes. */
  width: 0 | 1 | 2;
  colours: Record<'pen' | 'highlight' | 'note' | 'shapes', MarkColour>;
  shape: (typeof shapes)[number];
  writes: NoteKind;
  fill: CoverFill;
  area: (typeof areas)[number];
}

/** What becomes of what is drawn round: it is covered, all but that is, or it is put elsewhere. */
export const areas = ['coverThis', 'keepOnly', 'move'] as const;

export const firstChoice: ToolChoice = {
  id: 'pen',
  width: 1,
  colours: { pen: 'red', highlight: 'brass', note: 'blue', shapes: 'red' },
  shape: 'arrow',
  writes: 'text',
  fill: 'black',
  area: 'coverThis',
};

export function toolOf(
  { id, width, colours, shape, writes, fill, area }: ToolChoice,
  signature: Signature | null = null,
): MarkTool {
  if (id === 'pen') return { kind: 'ink', widthMm: widthsMm.pen[width], colour: colours.pen };
  if (id === 'highlight') return { kind: 'highlight', widthMm: widthsMm.highlight[width], colour: colours.highlight };
  if (id === 'note' && writes === 'signature' && signature) return { kind: 'signature', signature, widthMm: signaturesMm[width], colour: colours.note }; // prettier-ignore
  if (id === 'note') return { kind: 'note', writes, sizePt: sizesPt[width], colour: colours.note };
  if (id === 'shapes') return { kind: shape, widthMm: widthsMm.shapes[width], colour: colours.shapes };
  if (id !== 'cover') return { kind: 'select' };
  return area === 'move' ? { kind: 'part' } : { kind: 'cover', fill, outside: area === 'keepOnly' };
}
