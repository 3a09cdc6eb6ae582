/** Fixed lists: an id that is stored and a label that is shown. */
export const filters = [
  { id: 'original', label: 'Original', about: 'as photographed, only flattened' },
  { id: 'even-light', label: 'Even light', about: 'white paper, colours kept' },
  { id: 'grey', label: 'Grey', about: 'white paper, no colour' },
  { id: 'ink', label: 'Ink', about: 'black on white, smallest file' },
] as const;

export type FilterId = (typeof filters)[number]['id'];
export const filterIds = filters.map((f) => f.id) as [FilterId, ...FilterId[]];

export function filterLabel(id: FilterId | 'auto'): string {
  return id === 'auto' ? 'Auto' : filters.find((f) => f.id === id)!.label;
}

export const deliveryStates = ['waiting', 'sending', 'arrived', 'failed'] as const;
export type DeliveryState = (typeof deliveryStates)[number];

export const checks = [{ id: 'unsure-outline', label: 'Edges not sure', remedy: 'Set the edges' }, { id: 'no-page', label: 'No page found', remedy: 'Set the edges' }, { id: 'low-resolution', label: 'Few pixels', remedy: 'Take it closer' }] as const; // prettier-ignore
export type CheckId = (typeof checks)[number]['id'];
export const checkIds = checks.map((c) => c.id) as [CheckId, ...CheckId[]];
