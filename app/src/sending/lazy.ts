import { lazily } from '../ui/lazily';

export const SendSheet = lazily(() => import('./SendSheet').then((m) => m.SendSheet));
