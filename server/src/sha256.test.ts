import { createHash, randomBytes } from 'node:crypto';
import { Sha256 } from './sha256';

test('the thread says what Node’s own hash says, of several at once and in pieces of any size', async () => {
  const content = randomBytes(7_000_000);
  const of = async (pieces: number, from: number) => {
    const hash = new Sha256();
    for (let at = from; at < content.length; at += pieces) await hash.update(content.subarray(at, at + pieces));
    return hash.digest();
  };
  const wanted = (from: number) => createHash('sha256').update(content.subarray(from)).digest('hex');
  expect(await Promise.all([of(65_536, 0), of(1_000_003, 5), of(6_999_999, 6_000_000)])).toEqual([wanted(0), wanted(5), wanted(6_000_000)]); // prettier-ignore
  // The empty message (FIPS 180-4; NIST's example value, from memory).
  expect(await new Sha256().digest()).toBe('e3b0c44298fc1c149afbf4c8996fb92427ae41e4649b934ca495991b7852b855');
});

test('one that is given up leaves the others alone', async () => {
  const [left, kept] = [new Sha256(), new Sha256()];
  await Promise.all([left.update(Buffer.from('stern')), kept.update(Buffer.from('stern '))]);
  left.drop();
  await kept.update(Buffer.from('tube'));
  expect(await kept.digest()).toBe(createHash('sha256').update('stern tube').digest('hex'));
});
