import * as z from 'zod/mini';
import { mostAddresses } from './carrying';
import { addressSchema, deliverySchema, placeSchema, sendDetailsSchema } from './deliveries';
import { count, id, instant, positiveCount, problemSchema } from './fields';
import { knownSenderSchema, mostSenders, namePatternSchema } from './namePattern';
import { checkIds, coverFills, fileFormats, filterIds, markColours, paperIds, shelfGroups, shelfOrders } from './lists';

const point = z.tuple([z.number(), z.number()]);

/** Corners top-left, top-right, bottom-right, bottom-left of the page, in upright photo pixels. */
export const quadSchema = z.tuple([point, point, point, point]);

export const outlineSchema = z.object({
  v: z.literal(1),
  quad: quadSchema,
  /** 0..1; an outline set by hand is sure. */
  confidence: z.number().check(z.minimum(0), z.maximum(1)),
  source: z.enum(['found', 'hand', 'whole']),
  polygon: z.optional(z.array(point)),
});
export type Outline = z.infer<typeof outlineSchema>;

export const sizeSchema = z.object({
  widthMm: z.number().check(z.positive()),
  heightMm: z.number().check(z.positive()),
  name: z.nullable(z.string()),
});

const turned = z.optional(z.number().check(z.minimum(-1), z.maximum(1)));

/** What the user has turned on the filter; all −1 … 1 with 0 as made, sharpness and evening 0 … 1. */
export const adjustSchema = z.object({
  brightness: turned,
  contrast: turned,
  sharpness: turned,
  strokes: turned,
  evening: turned,
  warmth: turned,
});
export type Adjust = z.infer<typeof adjustSchema>;

const photoPx = z.number().check(z.minimum(-100_000), z.maximum(200_000));
/** A stroke painted over a page by hand: filled with paper, or kept as photographed. It lies on the photo: all in its px. */
export const touchSchema = z.object({
  kind: z.enum(['fill', 'keep']),
  points: z.array(z.tuple([photoPx, photoPx])).check(z.minLength(1), z.maxLength(400)),
  radius: z.number().check(z.minimum(0.1), z.maximum(50_000)),
});
export type Touch = z.infer<typeof touchSchema>;

const place = z.tuple([photoPx, photoPx]);
const markColour = z.enum(markColours);
/**
 * Something put on a page by hand. All places are photo px, so that it stays on the print whatever becomes of the outline; widths are mm on paper.
 */
export const markSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.enum(['ink', 'highlight']),
    id,
    /** Strokes that were put on together, as those of a signature, are one to whoever takes hold of them. */
    group: z.optional(id),
    /** With the pressure of a pen, 0..1, where there is one. */
    points: z.array(z.union([place, z.tuple([photoPx, photoPx, z.number().check(z.minimum(0), z.maximum(1))])])).check(z.minLength(1), z.maxLength(4000)), // prettier-ignore
    widthMm: z.number().check(z.minimum(0.1), z.maximum(30)),
    colour: markColour,
  }),
  z.object({
    kind: z.literal('note'),
    id,
    /** Its top left corner, and a place to its right on the same line, which says which way it is written. */
    at: place,
    along: place,
    text: z.string().check(z.minLength(1), z.maxLength(2000)),
    sizePt: z.number().check(z.minimum(4), z.maximum(96)),
    colour: markColour,
  }),
  z.object({
    kind: z.enum(['line', 'arrow', 'box', 'tick', 'cross']),
    id,
    from: place,
    to: place,
    widthMm: z.number().check(z.minimum(0.1), z.maximum(30)),
    colour: markColour,
  }),
  /** What lies under it, between two opposite corners, is in no file that leaves; `outside`: all but that. */
  z.object({
    kind: z.literal('cover'),
    id,
    from: place,
    to: place,
    fill: z.enum(coverFills),
    outside: z.optional(z.boolean()),
  }),
  /** A part of the page, between two opposite corners of `source`, put where `from` and `to` are, in that size; where it came from there is paper, unless it stays. */
  z.object({
    kind: z.literal('part'),
    id,
    source: z.tuple([place, place]),
    from: place,
    to: place,
    stays: z.optional(z.boolean()),
  }),
]);
export type Mark = z.infer<typeof markSchema>;

export const recipeSchema = z.object({
  v: z.literal(1),
  outline: outlineSchema,
  /** Quarter turns clockwise that make the page upright, in degrees. */
  turn: z.union([z.literal(0), z.literal(90), z.literal(180), z.literal(270)]),
  /** Left and right exchanged. */
  mirror: z.optional(z.boolean()),
  filter: z.enum(['auto', ...filterIds]),
  adjust: z.optional(adjustSchema),
  /** Whether the margin is tidied; without it, yes. */
  tidy: z.optional(z.boolean()),
  touches: z.optional(z.array(touchSchema).check(z.maxLength(500))),
  marks: z.optional(z.array(markSchema).check(z.maxLength(500))),
  size: z.optional(sizeSchema),
});
export type Recipe = z.infer<typeof recipeSchema>;

/** A picture as taken or imported. Its bytes lie in the photo store under the same id. */
export const photoSchema = z.object({
  v: z.literal(1),
  id,
  documentId: id,
  name: z.string().check(z.maxLength(400)),
  type: z.enum(['image/jpeg', 'image/png', 'image/webp']),
  bytes: count,
  /** Upright pixels, once decoded. */
  width: z.optional(positiveCount),
  height: z.optional(positiveCount),
  addedAt: instant,
});
export type Photo = z.infer<typeof photoSchema>;

/** A doubt, as measured; its words are made when it is shown. */
export const checkSchema = z.object({
  id: z.enum(checkIds),
  severity: z.enum(['retake', 'look', 'note']),
  /** What was measured. */
  value: z.optional(z.number()),
  /** The other page, where there is one. */
  pageId: z.optional(id),
});
export type Check = z.infer<typeof checkSchema>;

export const pageSchema = z.object({
  v: z.literal(4),
  id,
  documentId: id,
  photoId: id,
  /** Whether the photo shows this page only, or the two halves of a spread; several papers in one photo are rather cards. */
  alone: z.boolean(),
  /** looking: edges still to be found; ready; failed: the photo could not be read, see `problem`. */
  state: z.enum(['looking', 'ready', 'failed']),
  problem: z.optional(problemSchema),
  recipe: z.nullable(recipeSchema),
  /** What the finder said, to come back to. */
  found: z.nullable(outlineSchema),
  checks: z.array(checkSchema),
  /** Of the page as last rendered. */
  made: z.nullable(
    z.object({
      widthMm: z.number(),
      heightMm: z.number(),
      sizeName: z.nullable(z.string()),
      dpi: z.number(),
      filter: z.enum(filterIds),
    }),
  ),
  /** The name of the document that it was the first page of, before that was joined to another. */
  begins: z.optional(z.string()),
  /** Its photograph is gone: what it is made from now is the page as it was finished. */
  freed: z.optional(z.boolean()),
  /** Words that were put right by hand: photo px of the middle of each, and what stands there; nothing, if there is no word. */
  corrections: z.optional(z.array(z.object({ at: place, text: z.string().check(z.maxLength(200)) })).check(z.maxLength(1000))),
  deletedAt: z.nullable(instant),
});
export type Page = z.infer<typeof pageSchema>;

/** A page whose edges are still to be found. */
export function lookingPage(id: string, documentId: string, photoId: string): Page {
  return {
    v: 4,
    id,
    documentId,
    photoId,
    alone: true,
    state: 'looking',
    recipe: null,
    found: null,
    checks: [],
    made: null,
    deletedAt: null,
  };
}

const tag = z.string().check(z.minLength(1), z.maxLength(60));

export const documentSchema = z.object({
  v: z.literal(1),
  id,
  name: z.string().check(z.minLength(1), z.maxLength(200)),
  /** The name that it was given unasked, as it was read; '' once somebody has said what is right. */
  nameRead: z.optional(z.string().check(z.maxLength(200))),
  pageIds: z.array(id),
  createdAt: instant,
  changedAt: instant,
  deletedAt: z.nullable(instant),
  /** How pages that are added are finished; without it Auto picks for each. */
  finish: z.optional(z.pick(recipeSchema, { filter: true, adjust: true })),
  /** The folder in which it is filed; without one it stands on the shelf itself. */
  folder: z.optional(id),
  tags: z.optional(z.array(tag).check(z.maxLength(40))),
  /** Whether it is sent as one file or as one for each page; without it, one. */
  files: z.optional(z.enum(['one', 'page'])),
  /** What it is sent as; without it, PDF. */
  format: z.optional(z.enum(fileFormats)),
  /** A PDF of it is made no larger than so many megabytes, with fewer dots where that must be; without it, as it is. */
  underMb: z.optional(z.number().check(z.positive())),
  /** The sheet that each page of a PDF lies on; without it, each is a sheet of its own size. */
  paper: z.optional(z.enum(paperIds)),
  /** What printed page numbers say of its order, once somebody has put that away. */
  numbersSeen: z.optional(z.string()),
  /** Whether its files carry the words that were read on it; without it, yes. */
  searchable: z.optional(z.boolean()),
  /** Somebody does not want it to go where its folder or its cover slip sends by itself. */
  heldBack: z.optional(z.boolean()),
  /** Places by their ids to which its cover slip says that it goes. */
  sendsTo: z.optional(z.record(z.string(), sendDetailsSchema)),
  /** Where its cover slip may mean it to go: somebody is asked. */
  slipAsks: z.optional(
    z.object({
      id,
      /** tick: boxes are neither empty nor clearly ticked; strange: the slip was not printed here. */
      why: z.enum(['tick', 'strange']),
      sendsTo: z.record(z.string(), sendDetailsSchema),
    }),
  ),
  demo: z.optional(z.boolean()),
});
export type Document = z.infer<typeof documentSchema>;

export const folderSchema = z.object({
  id,
  name: z.string().check(z.minLength(1), z.maxLength(80)),
  /** The folder that it lies in; null: on the shelf. */
  parent: z.nullable(id),
  createdAt: instant,
  /** Places by their ids to which it sends by itself what is filed in it, each document once. */
  sendsTo: z.optional(z.record(z.string(), sendDetailsSchema)),
  /** Whether it does so although pages want a look; without it, once they have been looked at. */
  sendsUnchecked: z.optional(z.boolean()),
  /** How names of what is filed in it are built; without it, as in the folder that it lies in. */
  namePattern: z.optional(namePatternSchema),
});
export type Folder = z.infer<typeof folderSchema>;

/** How the shelf is divided: one record, so that the start reads it in one go; each folder is a field of its own, so that two tabs can change two of them. */
export const shelfSchema = z.object({
  v: z.literal(1),
  id: z.literal('shelf'),
  folders: z.record(z.string(), folderSchema),
});
export type ShelfRecord = z.infer<typeof shelfSchema>;

export const emptyShelf: ShelfRecord = { v: 1, id: 'shelf', folders: {} };

export const addressGroupSchema = z.object({
  name: z.string().check(z.minLength(1), z.maxLength(60)),
  addresses: z.array(addressSchema).check(z.minLength(1), z.maxLength(mostAddresses)),
});
export type AddressGroup = z.infer<typeof addressGroupSchema>;

export const settingsSchema = z.object({
  v: z.literal(2),
  theme: z.enum(['system', 'light', 'dark']),
  /** Places in the order they were last used. */
  lastPlaces: z.array(z.string()),
  demoOffered: z.boolean(),
  /** How the capture screen was left. */
  capture: z.object({ grid: z.boolean(), bySelf: z.boolean(), light: z.boolean(), cameraId: z.nullable(z.string()) }),
  /** Whether keys without Ctrl or ⌘ act (WCAG 2.2, 2.1.4). */
  letterKeys: z.boolean(),
  /** Whether installing has been offered: once. */
  installOffered: z.optional(z.boolean()),
  /** How names are built; without it, as `firstNamePattern` says. */
  namePattern: z.optional(namePatternSchema),
  /** Whether names that are read without a doubt are given unasked; without it, yes. */
  namesUnasked: z.optional(z.boolean()),
  /** Whether pages are read before anybody asks for their words; without it, where the device does not save data. */
  readAhead: z.optional(z.boolean()),
  /** How senders are called: by the line of a page that says who sent it, as it is read; the last one first. */
  senders: z.optional(z.array(knownSenderSchema).check(z.maxLength(mostSenders))),
  /** Mail addresses that were typed, the last used first. */
  addresses: z.optional(z.array(addressSchema)),
  /** Mail addresses that go together, by a name of their own, in the order of the names. */
  groups: z.optional(z.array(addressGroupSchema)),
  /** The folder that was last used at a place, by its id. */
  folders: z.optional(z.record(z.string(), z.string())),
  /** Cover slips that were printed here, or followed once, by all that they say (see `slipKey`); the last one first. */
  slips: z.optional(z.array(id)),
  /** Hints that somebody has done or put away. */
  hintsDone: z.optional(z.array(z.string())),
  /** How the shelf is sorted; without it, the newest first. */
  shelfOrder: z.optional(z.enum(shelfOrders)),
  /** Whether the shelf shows covers; without it, rows. */
  shelfCovers: z.optional(z.boolean()),
  /** By what days the shelf is divided; without it, each by itself. */
  shelfGroups: z.optional(z.enum(shelfGroups)),
});
export type Settings = z.infer<typeof settingsSchema>;

export const firstSettings: Settings = {
  v: 2,
  theme: 'system',
  lastPlaces: [],
  demoOffered: false,
  capture: { grid: false, bySelf: true, light: false, cameraId: null },
  letterKeys: true,
};

/** Kinds of record and the schema of each; a record's key is `kind:id`. */
export const recordSchemas = {
  photo: photoSchema,
  page: pageSchema,
  document: documentSchema,
  delivery: deliverySchema,
  place: placeSchema,
  settings: settingsSchema,
  shelf: shelfSchema,
} as const;
export type RecordKind = keyof typeof recordSchemas;
export type RecordOf<K extends RecordKind> = z.infer<(typeof recordSchemas)[K]>;
