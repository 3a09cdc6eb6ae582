import { firstNamePattern, patternIn, type NamePattern } from '@libretto/model';
import { foldersOf } from '../store/filing';
import { settingsId } from '../store/library';
import { useApp } from '../store/store';

/** How names are built: in a folder, or everywhere. */
export const usePattern = (folder?: string): NamePattern =>
  useApp((s) => patternIn(foldersOf(s), folder, s.library.settings[settingsId]!.namePattern ?? firstNamePattern));
