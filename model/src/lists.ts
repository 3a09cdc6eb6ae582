/** Fixed lists: an id that is stored and a label that is shown. */
export const filters = [
  { id: 'original', label: 'Original', about: 'as photographed, only flattened' },
  { id: 'even-light', label: 'Even light', about: 'white paper, colours kept' },
  { id: 'grey', label: 'Grey', about: 'white paper, no colour' },
  { id: 'ink', label: 'Ink', about: 'black on white, smallest file' },
  { id: 'board', label: 'Board', about: 'pens strong on clean white' },
  { id: 'picture', label: 'Picture', about: 'tones as they are' },
] as const;

export type FilterId = (typeof filters)[number]['id'];
export const filterIds = filters.map((f) => f.id) as [FilterId, ...FilterId[]];

export function filterLabel(id: FilterId | 'auto'): string {
  return id === 'auto' ? 'Auto' : filters.find((f) => f.id === id)!.label;
}

export const deliveryStates = ['waiting', 'sending', 'arrived', 'failed'] as const;
export type DeliveryState = (typeof deliveryStates)[number];

/** What settles a doubt: setting the edges, taking the page again, turning it, taking it out. */
export type Remedy = 'edges' | 'retake' | 'turn' | 'delete';

export const checks = [
  { id: 'no-page', label: 'No page found', remedy: 'edges', action: 'Set the edges' },
  { id: 'unsure-outline', label: 'Edges not sure', remedy: 'edges', action: 'Set the edges' },
  { id: 'blurred', label: 'Blurred', remedy: 'retake', action: 'Take it again' },
  { id: 'cut-off', label: 'Cut off', remedy: 'retake', action: 'Take it again' },
  { id: 'dark', label: 'Dark', remedy: 'retake', action: 'Take it again' },
  { id: 'grainy', label: 'Grainy', remedy: 'retake', action: 'Take it again' },
  { id: 'glare', label: 'Glare', remedy: 'retake', action: 'Take it again' },
  { id: 'low-resolution', label: 'Few pixels', remedy: 'retake', action: 'Take it closer' },
  { id: 'sideways', label: 'Maybe sideways', remedy: 'turn', action: 'Turn' },
  { id: 'same-page', label: 'Same page twice', remedy: 'delete', action: 'Take this one out' },
  { id: 'blank', label: 'Blank', remedy: 'delete', action: 'Take it out' },
] as const satisfies readonly { id: string; label: string; remedy: Remedy; action: string }[];
export type CheckId = (typeof checks)[number]['id'];
export const checkIds = checks.map((c) => c.id) as [CheckId, ...CheckId[]];
