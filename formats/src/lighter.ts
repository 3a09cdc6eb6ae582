/** One way to make pages lighter. */
export interface Lighter {
  dpi: number;
  /** Of the JPEG, 0..1. */
  quality: number;
  /** Parted into ink in its own dots and what lies under it. */
  layered?: boolean;
}

/** What is given up, the least first: down to where small print can just be read (common practice: 100 dpi). */
export const lighterTries: readonly Lighter[] = [
  { dpi: 300, quality: 0.7 },
  // Print in all its dots, over paper and pictures that have fewer.
  { dpi: 300, quality: 0.6, layered: true },
  { dpi: 300, quality: 0.35, layered: true },
  { dpi: 200, quality: 0.72 },
  { dpi: 150, quality: 0.7 },
  { dpi: 150, quality: 0.55 },
  { dpi: 120, quality: 0.55 },
  { dpi: 100, quality: 0.45 },
];
