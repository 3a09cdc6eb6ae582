/** Fixed lists: ids that are stored; what they are called is in the app's catalogue of words. */
export const filterIds = ['original', 'even-light', 'grey', 'ink', 'board', 'picture'] as const;
export type FilterId = (typeof filterIds)[number];

export const deliveryStates = ['waiting', 'paused', 'sending', 'carrying', 'arrived', 'doubt', 'failed'] as const;
export type DeliveryState = (typeof deliveryStates)[number];
/** On its way: waiting here, held up by somebody, being uploaded, or carried by the server. */
export const isOpenDelivery = ({ state }: { state: DeliveryState }): boolean => state !== 'arrived' && state !== 'doubt' && state !== 'failed'; // prettier-ignore

/** Somebody has to do something about it. What was cancelled is settled. */
export const needsAttention = ({ state, reason }: { state: DeliveryState; reason?: { code: string } | undefined }): boolean => state === 'doubt' || (state === 'failed' && reason?.code !== 'cancelled'); // prettier-ignore

/** What settles a doubt: setting the edges, taking the page again, turning it, taking it out. */
export type Remedy = 'edges' | 'retake' | 'turn' | 'delete';

export const checks = [
  { id: 'no-page', remedy: 'edges' },
  { id: 'unsure-outline', remedy: 'edges' },
  { id: 'crooked', remedy: 'edges' },
  { id: 'blurred', remedy: 'retake' },
  { id: 'cut-off', remedy: 'retake' },
  { id: 'dark', remedy: 'retake' },
  { id: 'grainy', remedy: 'retake' },
  { id: 'glare', remedy: 'retake' },
  { id: 'low-resolution', remedy: 'retake' },
  { id: 'sideways', remedy: 'turn' },
  { id: 'same-page', remedy: 'delete' },
  { id: 'blank', remedy: 'delete' },
] as const satisfies readonly { id: string; remedy: Remedy }[];
export type CheckId = (typeof checks)[number]['id'];
export const checkIds = checks.map((c) => c.id) as [CheckId, ...CheckId[]];

export const shelfOrders = ['newest', 'oldest', 'changed', 'name', 'pages'] as const;
/** The stretches of time that divide the shelf. */
export const shelfGroups = ['day', 'week', 'month'] as const;
export type ShelfGroup = (typeof shelfGroups)[number];
export type ShelfOrder = (typeof shelfOrders)[number];

/** Inks of marks, and what covers are filled with: black, white, or the colour of the paper round them. */
export const markColours = ['ink', 'blue', 'red', 'green', 'brass'] as const;
export type MarkColour = (typeof markColours)[number];
export const coverFills = ['black', 'white', 'paper'] as const;
export type CoverFill = (typeof coverFills)[number];

/** What a document is sent as: its pages as they look, or what was read on them. */
export const pageFormats = ['pdf', 'tiff', 'pictures', 'tall'] as const;
export const wordFormats = ['docx', 'xlsx', 'text', 'markdown', 'html', 'epub', 'contacts'] as const;
export const fileFormats = [...pageFormats, ...wordFormats] as const;
export type FileFormat = (typeof fileFormats)[number];
export type WordFormat = (typeof wordFormats)[number];
export const isWords = (format: FileFormat): format is WordFormat => (wordFormats as readonly string[]).includes(format);
/** The ending of each; pictures come singly or together. */
export const formatEndings = { pdf: 'pdf', tiff: 'tif', pictures: 'jpg', tall: 'jpg', text: 'txt', docx: 'docx', xlsx: 'xlsx', markdown: 'md', html: 'html', epub: 'epub', contacts: 'vcf' } as const satisfies Record<FileFormat, string>; // prettier-ignore

/** Sheets onto which all pages of a PDF can be laid, mm (ISO 216; ANSI/ASME Y14.1). */
export const papers = { a4: { widthMm: 210, heightMm: 297 }, letter: { widthMm: 215.9, heightMm: 279.4 } } as const;
export type PaperId = keyof typeof papers;
export const paperIds = Object.keys(papers) as [PaperId, ...PaperId[]];

const mediaTypes: Record<string, string> = {
  pdf: 'application/pdf', tif: 'image/tiff', zip: 'application/zip', jpg: 'image/jpeg', png: 'image/png', txt: 'text/plain; charset=utf-8', md: 'text/markdown; charset=utf-8', html: 'text/html; charset=utf-8', csv: 'text/csv; charset=utf-8', vcf: 'text/vcard; charset=utf-8',
  docx: 'application/vnd.openxmlformats-officedocument.wordprocessingml.document', xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet', epub: 'application/epub+zip' }; // prettier-ignore
/** Endings of the files that are made here: nothing else goes out by them. */
export const fileEndings: ReadonlySet<string> = new Set(Object.keys(mediaTypes));
/** A file's media type, by the ending of its name. */
export const mediaTypeOf = (fileName: string): string => mediaTypes[fileName.slice(fileName.lastIndexOf('.') + 1).toLowerCase()] ?? 'application/octet-stream'; // prettier-ignore
