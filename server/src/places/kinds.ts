import { z } from 'zod';
import type { Place } from '@libretto/model';
import type { Carrier } from './carrier';
import { bucketCarrier } from './bucket/bucketCarrier';
import { bucketAbout, bucketSchema, type BucketConfig } from './bucket/bucketConfig';
import { folderCarrier } from './folder/folderCarrier';
import { folderAbout, folderSchema, type FolderConfig } from './folder/folderConfig';
import { mailCarrier } from './mail/mailCarrier';
import { mailAbout, mailSchema, type MailConfig } from './mail/mailConfig';
import type { Reach } from './reach';

/** Kinds of places: adding one is a folder beside these and a line here. */
export const placeConfigSchema = z.discriminatedUnion('kind', [folderSchema, bucketSchema, mailSchema]);
export type PlaceConfig = FolderConfig | BucketConfig | MailConfig;

export function carrierOf(place: PlaceConfig, reach?: Reach): Carrier {
  switch (place.kind) {
    case 'folder':
      return folderCarrier(place, reach);
    case 'bucket':
      return bucketCarrier(place, reach);
    case 'mail':
      return mailCarrier(place, reach);
  }
}

function aboutOf(place: PlaceConfig): Pick<Place, 'about' | 'limit' | 'typed'> {
  switch (place.kind) {
    case 'folder':
      return folderAbout(place);
    case 'bucket':
      return bucketAbout(place);
    case 'mail':
      return mailAbout(place);
  }
}

/** What the browser may know of a place. */
export function publicPlace(place: PlaceConfig, own = false): Place {
  return {
    v: 1,
    id: place.id,
    kind: place.kind,
    name: place.name,
    ...aboutOf(place),
    ...(own && { own }),
  };
}
