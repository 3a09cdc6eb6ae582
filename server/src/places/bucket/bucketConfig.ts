import { z } from 'zod';
import { uploadLimitBytes, type Place } from '@libretto/model';
import { common, onThisMachine } from '../common';

export const bucketSchema = z
  .strictObject({
    kind: z.literal('bucket'),
    ...common,
    /** Where the store answers, http or https, without the bucket's name. */
    url: z.url({ protocol: /^https?$/ }).refine((url) => !new URL(url).username && !new URL(url).password, {
      error: 'holds a user name or password; they have fields of their own',
    }),
    /** Amazon S3, *Bucket naming rules*. */
    bucket: z.string().regex(/^[a-z0-9][a-z0-9.-]{1,61}[a-z0-9]$/, 'is 3 to 63 small letters, digits, points and hyphens'),
    region: z
      .string()
      .regex(/^[a-z0-9-]{1,40}$/)
      .default('us-east-1'),
    /** What names begin with; "/" between parts. */
    folder: z.string().default(''),
  })
  .superRefine((place, context) => {
    const { hostname, protocol } = new URL(place.url);
    // The secret itself never travels, but what it signs, and the file, would be open to everybody.
    if (protocol === 'https:' || place.insecure || onThisMachine(hostname)) return;
    context.addIssue({ code: 'custom', message: `would send files to ${hostname} unencrypted; "insecure": true allows that`, path: ['url'] }); // prettier-ignore
  });
export type BucketConfig = z.infer<typeof bucketSchema> & { password?: string };

export const bucketAbout = (place: BucketConfig): Pick<Place, 'about' | 'limit'> => ({
  about: [place.bucket, ...place.folder.split('/').filter(Boolean)].join(' / '),
  limit: uploadLimitBytes,
});
