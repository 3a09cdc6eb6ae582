import { readFileSync } from 'node:fs';
import { z } from 'zod';
import { mailLimitBytes, uploadLimitBytes, type Place } from '@libretto/model';

const id = z.string().regex(/^[a-z0-9-]{1,40}$/);
const name = z.string().min(1).max(80);
/** Name of the environment variable that holds the secret: secrets never stand in the file. */
const secret = z.string().regex(/^[A-Z][A-Z0-9_]*$/, 'names an environment variable in capitals');

const folderSchema = z.strictObject({
  kind: z.literal('folder'),
  id,
  name,
  /** WebDAV address of the collection, http or https. */
  url: z.url({ protocol: /^https?$/ }),
  /** Folder below it, made when missing; "/" between parts. */
  folder: z.string().default(''),
  username: z.string().optional(),
  passwordEnv: secret.optional(),
});

const mailSchema = z.strictObject({
  kind: z.literal('mail'),
  id,
  name,
  from: z.email(),
  to: z.array(z.email()).min(1).max(5),
  host: z.string().min(1),
  port: z.number().int().min(1).max(65535),
  /** true: TLS from the start; false: STARTTLS where the server offers it. */
  secure: z.boolean().default(false),
  username: z.string().optional(),
  passwordEnv: secret.optional(),
  limit: z.number().int().positive().default(mailLimitBytes),
});

const configSchema = z.strictObject({ places: z.array(z.discriminatedUnion('kind', [folderSchema, mailSchema])) });
export type FolderConfig = z.infer<typeof folderSchema> & { password?: string };
export type MailConfig = z.infer<typeof mailSchema> & { password?: string };
export type PlaceConfig = FolderConfig | MailConfig;

/** Checks a configuration and fetches its secrets. Throws with a message that names the field. */
export function parseConfig(input: unknown, env: NodeJS.ProcessEnv = process.env): PlaceConfig[] {
  const result = configSchema.safeParse(input);
  if (!result.success) throw new Error(`The configuration does not fit: ${z.prettifyError(result.error)}`);
  const seen = new Set<string>();
  return result.data.places.map((place) => {
    if (seen.has(place.id)) throw new Error(`The configuration has two places with the id "${place.id}"`);
    seen.add(place.id);
    if (!place.passwordEnv) return place;
    const password = env[place.passwordEnv];
    if (!password)
      throw new Error(
        `Place "${place.id}" wants its password in the environment variable ${place.passwordEnv}, which is not set`,
      );
    return { ...place, password };
  });
}

export function readConfig(file: string): PlaceConfig[] {
  return parseConfig(JSON.parse(readFileSync(file, 'utf8')));
}

/** What the browser may know of a place. */
export function publicPlace(place: PlaceConfig): Place {
  const common = { v: 1 as const, id: place.id, kind: place.kind, name: place.name };
  if (place.kind === 'folder')
    return { ...common, about: place.folder.split('/').filter(Boolean).join(' / ') || 'folder', limit: uploadLimitBytes };
  return { ...common, about: place.to.length === 1 ? '1 address' : `${place.to.length} addresses`, limit: place.limit };
}
