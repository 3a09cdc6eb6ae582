import type { Rect } from './words';

export const contactFields = ['name', 'organisation', 'role', 'phone', 'mail', 'web', 'address'] as const;
export type ContactField = (typeof contactFields)[number];

/** Something of a card, and where it was read. */
export interface ContactPart {
  field: ContactField;
  value: string;
  box: Rect;
  /** Probability that it was read right: that of its least sure word. */
  right: number;
}
