import { lazily } from '../ui/lazily';

export const ProofSheet = lazily(() => import('./ProofSheet').then((m) => m.ProofSheet));
