import { lazily } from '../ui/lazily';

export const Capture = lazily(() => import('./Capture').then((m) => m.Capture));
export const BringIn = lazily(() => import('./BringIn').then((m) => m.BringIn));
