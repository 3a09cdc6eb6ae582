import { lazily } from '../ui/lazily';

export const Backup = lazily(() => import('./Backup').then((m) => m.Backup));
