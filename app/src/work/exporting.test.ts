import { fileNames } from './exporting';

jest.mock('./pools', () => ({ pagePool: {}, filePool: {} }));

test('one file has the document’s name, a file a page the page’s number too, all as long', () => {
  expect(fileNames({ name: 'Hull survey' }, 12)).toEqual(['Hull survey']);
  const names = fileNames({ name: 'Hull survey', files: 'page' }, 12);
  expect([names[0], names[11]]).toEqual(['Hull survey, 01', 'Hull survey, 12']);
  expect([...names].sort()).toEqual(names);
});
