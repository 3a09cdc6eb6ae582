import { readFileSync } from 'node:fs';
import { z } from 'zod';
import { placeConfigSchema, type PlaceConfig } from './places/kinds';

const configSchema = z.strictObject({
  places: z.array(placeConfigSchema).default([]),
  /** Who may add, change and remove places in the app: the person at this machine, or every paired device as well. */
  placesChangedBy: z.enum(['thisMachine', 'paired']).default('thisMachine'),
  /** Whether places added in the app may lie within private networks and on this machine. */
  privatePlaces: z.boolean().default(false),
});

export interface Config {
  places: PlaceConfig[];
  placesChangedBy: 'thisMachine' | 'paired';
  privatePlaces: boolean;
}
export const noConfig: Config = { places: [], placesChangedBy: 'thisMachine', privatePlaces: false };

/** Checks a configuration and fetches its secrets. Throws with a message that names the field. */
export function parseConfig(input: unknown, env: NodeJS.ProcessEnv = process.env): Config {
  const result = configSchema.safeParse(input);
  if (!result.success) throw new Error(`The configuration does not fit: ${z.prettifyError(result.error)}`);
  const seen = new Set<string>();
  const places = result.data.places.map((place) => {
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
  return { ...result.data, places };
}

export function readConfig(file: string): Config {
  return parseConfig(JSON.parse(readFileSync(file, 'utf8')));
}
