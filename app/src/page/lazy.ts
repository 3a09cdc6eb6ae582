import { lazily } from '../ui/lazily';

export const TableSheet = lazily(() => import('./TableSheet').then((m) => m.TableSheet), { silent: true });
export const SignatureSheet = lazily(() => import('./SignatureSheet').then((m) => m.SignatureSheet), { silent: true });
export const ContactSheet = lazily(() => import('./ContactSheet').then((m) => m.ContactSheet), { silent: true });
export const Bench = lazily(() => import('./Bench').then((m) => m.Bench));
