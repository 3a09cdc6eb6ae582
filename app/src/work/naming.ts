import { firstNamePattern, isUnnamed, nameByPattern, patternIn } from '@libretto/model';
import { sureParts, type Suggestion } from '@libretto/text/suggest';
import { nameDocument } from '../store/editing';
import type { ReadText } from '../store/files';
import { foldersOf } from '../store/filing';
import { settingsId } from '../store/library';
import type { AppDispatch, RootState } from '../store/store';
import { suggestionsIn } from './suggesting';

/** What a pattern takes off the page. */
const isRead = (kind: string): kind is Suggestion['kind'] =>
  kind === 'date' || kind === 'sender' || kind === 'title' || kind === 'number';

/**
 * Gives a document that nobody has named and that has not been sent the name that its first page says, where nothing about that is in doubt. Once; it is no step of anybody's, so that
 * undoing takes back what they did themselves.
 */
export function nameUnasked(pageId: string, text: ReadText) {
  return async (dispatch: AppDispatch, getState: () => RootState): Promise<void> => {
    const state = getState();
    const { library } = state;
    const settings = library.settings[settingsId]!;
    const document = library.document[library.page[pageId]?.documentId ?? ''];
    if (settings.namesUnasked === false || document?.pageIds[0] !== pageId) return;
    if (document.nameRead !== undefined || document.deletedAt || !isUnnamed(document.name)) return;
    if (Object.values(library.delivery).some((d) => d.documentId === document.id)) return;
    const pattern = patternIn(foldersOf(state), document.folder, settings.namePattern ?? firstNamePattern);
    const parts = sureParts(suggestionsIn(text, settings.senders), pattern.parts.map((p) => p.kind).filter(isRead));
    if (parts) await dispatch(nameDocument(document, nameByPattern(pattern, { ...parts, at: new Date(document.createdAt) })));
  };
}
