import { read, utils } from '@e965/xlsx';
import { aDelivery, aPlace } from '../testing/records';
import { historyCsv, isSought, placesUsed } from './history';

const folder = { ...aPlace, id: 'yard', name: 'Yard records' };
const mail = { ...aPlace, id: 'owner', kind: 'mail' as const, name: 'Owner' };
const proof = { where: 'Yard records / a.pdf', at: '2026-11-20T14:02:00.000Z', bytes: 4, sha256: 'ab12'.repeat(16), how: 'read-back' as const, receipt: 'etag, "7"', readSha256: 'ab12'.repeat(16) }; // prettier-ignore
const one = aDelivery('1', { place: folder, fileName: 'Hull survey.pdf', state: 'arrived', proof, folder: 'Surveys/2026' });
const two = aDelivery('2', { place: mail, fileName: 'Docket.pdf', to: ['ines@example.com'] });

test('found by words of file, place, folder and addresses, all of them', () => {
  const found = (query: string, place: string | null = null) =>
    [one, two].filter((d) => isSought(d, query, place)).map((d) => d.id);
  expect(found('')).toEqual(['1', '2']);
  expect(found('HULL surveys')).toEqual(['1']);
  expect(found('ines docket')).toEqual(['2']);
  expect(found('ines hull')).toEqual([]);
  expect(found('pdf', 'owner')).toEqual(['2']);
  expect(placesUsed([one, two, two]).map((p) => p.name)).toEqual(['Owner', 'Yard records']);
});

test('the history as a spreadsheet reads it, with the proof', () => {
  const csv = historyCsv([one, two], ['Sent', 'File', 'Bytes', 'Place', 'Folder', 'Addresses', 'State', 'Arrived', 'Where', 'a', 'b', 'c', 'Receipt'], (d) => d.state); // prettier-ignore
  // Without its byte order mark, which a string has no use for.
  const book = read(csv.slice(1), { type: 'string', raw: true });
  const rows = utils.sheet_to_json<Record<string, string>>(book.Sheets[book.SheetNames[0]!]!, { defval: '' });
  expect(rows[0]).toMatchObject({ File: 'Hull survey.pdf', Folder: 'Surveys/2026', State: 'arrived', Arrived: proof.at, a: one.sha256, b: proof.readSha256, Receipt: 'etag, "7"' }); // prettier-ignore
  expect(rows[1]).toMatchObject({ File: 'Docket.pdf', Addresses: 'ines@example.com', Arrived: '' });
});
