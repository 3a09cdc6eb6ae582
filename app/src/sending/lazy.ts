import { lazily } from '../ui/lazily';

export const SendSheet = lazily(() => import('./SendSheet').then((m) => m.SendSheet));
export const Places = lazily(() => import('./Places').then((m) => m.Places));
export const FolderSends = lazily(() => import('./FolderSends').then((m) => m.FolderSends), { silent: true });
export const SlipSheet = lazily(() => import('./SlipSheet').then((m) => m.SlipSheet), { silent: true });
export const SendSeveral = lazily(() => import('./SendSeveral').then((m) => m.SendSeveral), { silent: true });
export const Outbox = lazily(() => import('./Outbox').then((m) => m.Outbox));
