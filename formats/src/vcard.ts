/** Somebody, as a card says it; several of a field where there are. */
export type ContactValues = Partial<
  Record<'name' | 'organisation' | 'role' | 'phone' | 'mail' | 'web' | 'address', readonly string[]>
>;

const escaped = (text: string) => text.replace(/[\\,;]/g, '\\$&').replace(/\r?\n/g, '\\n');

/** Lines are folded so that none has more than 75 octets (RFC 6350, 3.2), and no character is cut. */
function folded(line: string): string {
  const out: string[] = [];
  let [part, octets] = ['', 0];
  for (const character of line) {
    const size = new TextEncoder().encode(character).length;
    if (octets + size > 75) {
      out.push(part);
      part = ' ';
      octets = 1;
    }
    part += character;
    octets += size;
  }
  return [...out, part].join('\r\n');
}

/** Contacts as vCard 4.0 (RFC 6350), one after the other. Who has no name is called by the organisation, or the first way to reach them. */
export function writeVcard(contacts: readonly ContactValues[]): string {
  return contacts
    .map((contact) => {
      const { name = [], organisation = [], role = [], phone = [], mail = [], web = [], address = [] } = contact;
      const called = name[0] ?? organisation[0] ?? mail[0] ?? phone[0] ?? '–';
      const words = (name[0] ?? '').split(/\s+/).filter(Boolean);
      const lines = [
        'BEGIN:VCARD',
        'VERSION:4.0',
        `FN:${escaped(called)}`,
        // Family and given name: the last word is the family's (common practice; people put it right).
        ...(words.length > 1 ? [`N:${escaped(words.at(-1)!)};${escaped(words.slice(0, -1).join(' '))};;;`] : []),
        ...organisation.map((v) => `ORG:${escaped(v)}`),
        ...role.map((v) => `TITLE:${escaped(v)}`),
        ...phone.map((v) => `TEL;VALUE=uri:tel:${v.replace(/[^\d+]/g, '')}`),
        ...mail.map((v) => `EMAIL:${escaped(v)}`),
        ...web.map((v) => `URL:${/^https?:/i.test(v) ? v : `https://${v}`}`),
        ...address.map((v) => `ADR:;;${escaped(v)};;;;`),
        'END:VCARD',
      ];
      return `${lines.map(folded).join('\r\n')}\r\n`;
    })
    .join('');
}
