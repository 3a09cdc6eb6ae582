import { z } from 'zod';
import { mailLimitBytes, mostAddresses, type Place } from '@libretto/model';
import { common } from '../common';

export const mailSchema = z.strictObject({
  kind: z.literal('mail'),
  ...common,
  from: z.email(),
  /** Whom it goes to; none: addresses are typed at sending. */
  to: z.array(z.email()).max(mostAddresses).default([]),
  host: z.string().min(1),
  port: z.number().int().min(1).max(65535),
  /** true: TLS from the start; false: STARTTLS, which is required wherever a password is sent. */
  secure: z.boolean().default(false),
  limit: z.number().int().positive().default(mailLimitBytes),
});
export type MailConfig = z.infer<typeof mailSchema> & { password?: string };

export const mailAbout = ({ to, limit }: MailConfig): Pick<Place, 'about' | 'limit' | 'typed'> => ({
  about: to.length === 0 ? '' : to.length === 1 ? '1 address' : `${to.length} addresses`,
  limit,
  ...(to.length === 0 && { typed: true }),
});
