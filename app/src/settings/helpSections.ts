/** Chapters of the help, in the order of the work. */
export const helpSections = [
  'capture',
  'edges',
  'pages',
  'finish',
  'marks',
  'text',
  'shelf',
  'send',
  'outbox',
  'places',
  'phone',
  'safe',
] as const;
export type HelpSection = (typeof helpSections)[number];

/** The chapter about a screen, by its address and, on the bench, its drawer. */
export function helpFor(path: string, drawer?: string): HelpSection {
  if (path.startsWith('/capture')) return 'capture';
  if (path.includes('/page/')) return drawer === 'finish' || drawer === 'marks' || drawer === 'text' ? drawer : 'edges';
  if (path.startsWith('/document')) return 'pages';
  if (path.startsWith('/outbox')) return 'outbox';
  if (path.startsWith('/places')) return 'places';
  if (path.startsWith('/phone')) return 'phone';
  if (path.startsWith('/settings')) return 'safe';
  return 'shelf';
}
