import { createHash } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { buildApp } from './app';
import { startStandIns } from './standins/start';

/** The text format of Prometheus (exposition format 0.0.4): a comment, or a name, labels and a number. */
const line = /^(?:#.*|[a-z_:][a-z0-9_:]*(?:\{(?:[a-z_]+="[^"\n]*",?)*\})? (?:[-+\d.e]+|NaN|[+-]Inf))$/i;

test('what is counted can be read by Prometheus, and counts; without a folder to write to it is not ready', async () => {
  const dataDir = mkdtempSync(path.join(tmpdir(), 'libretto-watching-'));
  const standIns = await startStandIns(dataDir);
  const app = await buildApp({ places: standIns.places, dataDir });
  const metrics = async () => (await app.inject('/api/metrics')).body;
  const before = await metrics();
  for (const each of before.split('\n').filter(Boolean)) expect(each).toMatch(line);
  expect(before).toContain('libretto_deliveries_under 0');
  expect((await app.inject('/api/ready')).json()).toEqual({ ready: true });

  const file = Buffer.from('%PDF-1.7\nstern tube');
  const request = { placeId: 'yard-records', fileName: 'Docket.pdf', bytes: file.length, sha256: createHash('sha256').update(file).digest('hex'), subject: '', message: '' }; // prettier-ignore
  await app.inject({ method: 'PUT', url: '/api/deliveries/delivery-0000000000001', headers: { 'content-type': 'application/pdf', 'x-delivery': encodeURIComponent(JSON.stringify(request)) }, payload: file }); // prettier-ignore
  while (!(await metrics()).includes('libretto_deliveries_ended_total{state="arrived"} 1')) await new Promise((r) => setTimeout(r, 50)); // prettier-ignore
  const after = await metrics();
  expect(after).toContain(`libretto_delivered_bytes_total ${file.length}`);
  expect(after).toContain('libretto_delivery_seconds_count 1');

  rmSync(dataDir, { recursive: true });
  const answer = await app.inject('/api/ready');
  expect([answer.statusCode, answer.json().ready]).toEqual([503, false]);
  await app.close();
  await standIns.close();
}, 30_000);
