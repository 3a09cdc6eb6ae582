/** How the stand-in folder behaves: as it should, or as one that fails in some way. */
export const folderMoods = ['well', 'slow', 'failing', 'full', 'locked', 'password', 'cut', 'lying'] as const;
/** How the stand-in mailbox behaves. */
export const mailMoods = ['well', 'slow', 'failing', 'full', 'refusing', 'password', 'cut'] as const;
export type FolderMood = (typeof folderMoods)[number];
export type MailMood = (typeof mailMoods)[number];

/** How both behave now; whoever shows them changes it. */
export interface Moods {
  folder: FolderMood;
  mail: MailMood;
}
export const wellBehaved = (): Moods => ({ folder: 'well', mail: 'well' });

/** How long a slow one lets every answer wait, ms. */
export const slowMs = 4000;
/** What a failing folder asks others to wait, s. */
export const againAfterS = 20;
