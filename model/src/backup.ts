import * as z from 'zod/mini';
import { documentSchema, pageSchema, photoSchema, shelfSchema } from './records';

/**
 * A backup is a ZIP of stored entries: `libretto.json`, the index, first; then for each document `photos/<id>.<ending>` and after them `documents/<id>.json`, so that of a file that
 * was cut all documents before the cut are whole; at last, if wanted, `pdf/<name>.pdf` and `backup.schema.json`.
 */
export const backupIndexSchema = z.object({
  format: z.literal('libretto-backup'),
  v: z.literal(1),
  madeAt: z.iso.datetime(),
  documents: z.array(z.object({ id: z.string(), name: z.string(), pages: z.int() })),
  /** How the shelf is divided. */
  shelf: shelfSchema,
});
export type BackupIndex = z.infer<typeof backupIndexSchema>;

/** One document with all that it is made of. */
export const backupDocumentSchema = z.object({
  document: documentSchema,
  pages: z.array(pageSchema),
  photos: z.array(
    z.object({
      record: photoSchema,
      /** Name of its entry. */
      entry: z.string(),
      sha256: z.string().check(z.regex(/^[0-9a-f]{64}$/)),
    }),
  ),
  /** Pages that were left out, since their photographs show what is covered on them. */
  leftOut: z.int(),
});
export type BackupDocument = z.infer<typeof backupDocumentSchema>;
