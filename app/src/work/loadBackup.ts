import type * as Parts from './backupParts';

/** What writes and reads backups, with its ZIP: fetched when it is needed, from this one place. */
export const loadBackup = (): Promise<typeof Parts> => import('./backupParts');
