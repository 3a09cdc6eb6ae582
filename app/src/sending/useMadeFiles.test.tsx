import { act, screen } from '@testing-library/react';
import type { Document, Page } from '@libretto/model';
import { aDocument, aPage } from '../testing/records';
import { show } from '../testing/show';
import { textKnown } from '../store/session';
import { WorkProblem } from '../work/problem';
import { useMadeFiles } from './useMadeFiles';

const mockMade = jest.fn();
jest.mock('../work/exporting', () => ({ makeFiles: () => mockMade() }));
jest.mock('../work/reading', () => ({ isReadable: () => false, readText: jest.fn() }));

function Made({ document, pages }: { document: Document; pages: readonly Page[] }) {
  const { files, problem } = useMadeFiles(document, pages);
  return <p>{problem ? problem.code : files ? files[0]!.fileName : 'making'}</p>;
}

test('a file that could not be made for want of words is there once they are', async () => {
  const [document, page] = [aDocument(['page-1'], { format: 'docx' }), aPage('page-1')];
  mockMade.mockRejectedValueOnce(new WorkProblem('no-text-yet'));
  const { store } = await show(<Made document={document} pages={[page]} />, []);
  expect(await screen.findByText('no-text-yet')).toBeInTheDocument();
  mockMade.mockResolvedValueOnce([{ fileName: 'Survey.docx', blob: new Blob(), sha256: '' }]);
  act(() => void store.dispatch(textKnown({ pageId: 'page-1', look: 'read' })));
  expect(await screen.findByText('Survey.docx')).toBeInTheDocument();
});
