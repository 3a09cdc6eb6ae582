import { lazily } from '../ui/lazily';

export const Backup = lazily(() => import('./Backup').then((m) => m.Backup));
export const NamePattern = lazily(() => import('./NamePattern').then((m) => m.NamePattern));
export const Help = lazily(() => import('./Help').then((m) => m.Help));
export const Phone = lazily(() => import('./Phone').then((m) => m.Phone));
export const Settings = lazily(() => import('./Settings').then((m) => m.Settings));
