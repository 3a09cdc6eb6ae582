import { z } from 'zod';
import { uploadLimitBytes, type Place } from '@libretto/model';
import { common, passwordInTheOpen } from '../common';

export const folderSchema = z
  .strictObject({
    kind: z.literal('folder'),
    ...common,
    /** WebDAV address of the collection, http or https. */
    url: z.url({ protocol: /^https?$/ }).refine((url) => !new URL(url).username && !new URL(url).password, {
      error: 'holds a user name or password; they have fields of their own',
    }),
    /** Folder below it, made when missing; "/" between parts. */
    folder: z.string().default(''),
  })
  .superRefine((place, context) => {
    const { hostname, protocol } = new URL(place.url);
    const message = passwordInTheOpen(place, hostname, protocol === 'https:');
    if (message) context.addIssue({ code: 'custom', message, path: ['url'] });
  });
export type FolderConfig = z.infer<typeof folderSchema> & { password?: string };

export const folderAbout = (place: FolderConfig): Pick<Place, 'about' | 'limit'> => ({
  about: place.folder.split('/').filter(Boolean).join(' / ') || 'folder',
  limit: uploadLimitBytes,
});
