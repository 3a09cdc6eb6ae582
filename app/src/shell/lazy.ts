import { lazily } from '../ui/lazily';

export const KeysDialog = lazily(() => import('./KeysDialog').then((m) => m.KeysDialog), { silent: true });
