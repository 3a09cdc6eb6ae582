import { lazily } from '../ui/lazily';

export const ProofSheet = lazily(() => import('./ProofSheet').then((m) => m.ProofSheet));
export const FilingSheets = lazily(() => import('./FilingSheets').then((m) => m.FilingSheets), { silent: true });
export const ShelfBar = lazily(() => import('./ShelfBar').then((m) => m.ShelfBar), { silent: true });
export const Bin = lazily(() => import('./Bin').then((m) => m.Bin));
export const NameSuggestions = lazily(() => import('./NameSuggestions').then((m) => m.NameSuggestions), { silent: true });
export const LookClosely = lazily(() => import('./LookClosely').then((m) => m.LookClosely), { silent: true });
export const CoverRow = lazily(() => import('./CoverRow').then((m) => m.CoverRow), { silent: true });
