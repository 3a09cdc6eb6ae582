import { z } from 'zod';
import type { Place } from '@libretto/model';
import type { Carrier } from './carrier';
import { folderCarrier } from './folder/folderCarrier';
import { folderAbout, folderSchema, type FolderConfig } from './folder/folderConfig';
import { mailCarrier } from './mail/mailCarrier';
import { mailAbout, mailSchema, type MailConfig } from './mail/mailConfig';
import type { Reach } from './reach';

/** Kinds of places: adding one is a folder beside these and a line here. */
export const placeConfigSchema = z.discriminatedUnion('kind', [folderSchema, mailSchema]);
export type PlaceConfig = FolderConfig | MailConfig;

export const carrierOf = (place: PlaceConfig, reach?: Reach): Carrier =>
  place.kind === 'folder' ? folderCarrier(place, reach) : mailCarrier(place, reach);

/** What the browser may know of a place. */
export function publicPlace(place: PlaceConfig, own = false): Place {
  return {
    v: 1,
    id: place.id,
    kind: place.kind,
    name: place.name,
    ...(place.kind === 'folder' ? folderAbout(place) : mailAbout(place)),
    ...(own && { own }),
  };
}
