import { meantBy, mostSlipPlaces, parseSlip, slipSheet, writeSlip, type Slip } from './slip';

const slip: Slip = {
  libretto: 'slip',
  v: 1,
  id: 'slip-0001',
  name: 'Hull survey Wren',
  places: [
    { id: 'yard', name: 'Yard folder', details: { folder: 'Wren' } },
    { id: 'owner', name: 'The owner', details: { to: ['t.elmwood@example.org'] } },
    { id: 'bank', name: 'Bank' },
  ],
  pen: true,
};

test('a slip comes out of its code as it went in; other codes are none', () => {
  expect(parseSlip(writeSlip(slip))).toEqual(slip);
  for (const other of ['', '{"libretto":"slip"', '{"libretto":"slip","v":2}', 'https://example.org', '{"a":1}']) expect(parseSlip(other)).toBeNull();
  expect(parseSlip(JSON.stringify({ ...slip, places: Array(mostSlipPlaces + 1).fill(slip.places[2]!) }))).toBeNull();
  expect(parseSlip(JSON.stringify({ ...slip, places: [{ id: '../x', name: '' }] }))).toBeNull();
}); // prettier-ignore

test('what is ticked is meant, what is unclear or was not seen is asked about; without a pen all are meant', () => {
  expect(meantBy(slip, ['ticked', 'empty'])).toEqual({ sendsTo: { yard: { folder: 'Wren' } }, asks: { bank: {} } });
  expect(meantBy(slip, ['unclear', 'empty', 'empty'])).toEqual({ sendsTo: {}, asks: { yard: { folder: 'Wren' } } });
  expect(Object.keys(meantBy({ ...slip, pen: false }, []).sendsTo)).toEqual(['yard', 'owner', 'bank']);
});

test('all of it lies on the sheet', () => {
  const last = slipSheet.boxY(mostSlipPlaces - 1) + slipSheet.box.side;
  expect(last).toBeLessThan(slipSheet.heightMm - 10);
  expect(slipSheet.code.x + slipSheet.code.side).toBeLessThan(slipSheet.widthMm - 10);
  expect(slipSheet.boxY(0)).toBeGreaterThan(slipSheet.code.y + slipSheet.code.side);
});
