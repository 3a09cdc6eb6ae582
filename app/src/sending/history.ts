import { writeCsv } from '@libretto/formats/words/plain';
import type { Delivery } from '@libretto/model';

/** Whether a delivery is one of those that are looked for: every word stands in its file's name, its place, its folder or its addresses. */
export function isSought(d: Delivery, query: string, place: string | null): boolean {
  if (place && d.place.id !== place) return false;
  const words = query.toLowerCase().split(/\s+/).filter(Boolean);
  if (!words.length) return true;
  const stands = [d.fileName, d.place.name, d.folder, d.place.about, ...(d.to ?? []), ...(d.cc ?? []), d.subject, d.proof?.where].join(' ').toLowerCase(); // prettier-ignore
  return words.every((word) => stands.includes(word));
}

/** The places of deliveries, by how often they were used. */
export function placesUsed(deliveries: readonly Delivery[]): { id: string; name: string }[] {
  const used = new Map<string, { id: string; name: string; count: number }>();
  for (const { place } of deliveries) {
    const its = used.get(place.id) ?? { id: place.id, name: place.name, count: 0 };
    its.count++;
    used.set(place.id, its);
  }
  return [...used.values()].sort((a, b) => b.count - a.count);
}

/** Deliveries with their proof as comma-separated values; dates in ISO 8601, UTC. @param heads names of the columns. */
export function historyCsv(deliveries: readonly Delivery[], heads: readonly string[], stateIn: (d: Delivery) => string): string {
  return writeCsv([
    heads,
    ...deliveries.map((d) => [
      d.createdAt,
      d.fileName,
      String(d.bytes),
      d.place.name,
      d.folder ?? '',
      [...(d.to ?? []), ...(d.cc ?? [])].join(' '),
      stateIn(d),
      d.proof?.at ?? '',
      d.proof?.where ?? '',
      d.sha256,
      d.proof?.readSha256 ?? '',
      d.proof?.messageId ?? '',
      d.proof?.receipt ?? '',
    ]),
  ]);
}
