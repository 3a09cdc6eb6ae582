/** What a code's text is for, by how it begins; nothing of it is ever opened by itself. */
export function codeMeaning(text: string): 'link' | 'contact' | 'network' | 'mail' | 'phone' | 'text' {
  if (/^https?:\/\/\S+$/i.test(text.trim())) return 'link';
  if (/^(?:BEGIN:VCARD|MECARD:)/i.test(text)) return 'contact';
  if (/^WIFI:/i.test(text)) return 'network';
  if (/^(?:mailto:|MATMSG:)/i.test(text)) return 'mail';
  if (/^tel:/i.test(text)) return 'phone';
  return 'text';
}
