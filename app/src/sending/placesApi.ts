import * as z from 'zod/mini';
import {
  folderFormSchema,
  mailFormSchema,
  placeSchema,
  placesAnswerSchema,
  tryAnswerSchema,
  type Place,
  type PlaceForm,
  type TryAnswer,
} from '@libretto/model';

/** What the server says against it, in its words; `offline` where it does not answer. */
export class PlaceProblem extends Error {
  constructor(
    readonly code: string,
    said: string,
  ) {
    super(said);
  }
}

const refusalSchema = z.object({ error: z.string(), code: z.optional(z.string()) });
/** A place may take this long to be tried, ms. */
const longestMs = 45_000;

async function ask(path: string, method: string, body?: unknown): Promise<unknown> {
  let answer: Response;
  try {
    answer = await fetch(`/api/places${path}`, {
      method,
      cache: 'no-store',
      signal: AbortSignal.timeout(longestMs),
      ...(body !== undefined && { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
    });
  } catch {
    throw new PlaceProblem('unreachable', '');
  }
  if (answer.status === 204) return null;
  const said: unknown = await answer.json().catch(() => null);
  if (answer.ok) return said;
  if (answer.status === 401) throw new PlaceProblem('signed-out', '');
  const refusal = refusalSchema.safeParse(said);
  throw new PlaceProblem('said', refusal.success ? refusal.data.error : String(answer.status));
}

export const listPlaces = async () => placesAnswerSchema.parse(await ask('', 'GET'));
export const addPlace = async (form: PlaceForm): Promise<Place> => placeSchema.parse(await ask('', 'POST', form));
export const changePlace = async (id: string, form: PlaceForm): Promise<Place> =>
  placeSchema.parse(await ask(`/${id}`, 'PUT', form));
export const removePlace = async (id: string): Promise<void> => void (await ask(`/${id}`, 'DELETE'));
export const tryPlace = async (id: string): Promise<TryAnswer> => tryAnswerSchema.parse(await ask(`/${id}/try`, 'POST'));
/** Tries what a form says before it is kept; `of`: the place that it changes, whose password it may use. */
export const tryForm = async (form: PlaceForm, of?: string): Promise<TryAnswer> =>
  tryAnswerSchema.parse(await ask(`/try${of ? `?of=${of}` : ''}`, 'POST', form));

const keptFormSchema = z.discriminatedUnion('kind', [
  z.extend(folderFormSchema, { hasPassword: z.boolean() }),
  z.extend(mailFormSchema, { hasPassword: z.boolean() }),
]);
export type KeptForm = z.infer<typeof keptFormSchema>;
/** What the form of a place is filled with. */
export const placeForm = async (id: string): Promise<KeptForm> => keptFormSchema.parse(await ask(`/${id}`, 'GET'));

const foldersSchema = z.object({ folder: z.string(), folders: z.array(z.string()) });
/** Folders in one of a place, or in the one that it leads to. */
export const foldersOf = async (id: string, folder?: string) =>
  foldersSchema.parse(await ask(`/${id}/folders${folder === undefined ? '' : `?in=${encodeURIComponent(folder)}`}`, 'GET'));
export const makeFolder = async (id: string, folder: string): Promise<void> =>
  void (await ask(`/${id}/folders`, 'POST', { folder }));
