import { createReadStream } from 'node:fs';
import nodemailer from 'nodemailer';
import { bytesInWords, mailBytes, mediaTypeOf } from '@libretto/model';
import type { MailConfig } from '../config';
import { CarryError, networkFault, type Carrier } from './carrier';

/** A mailbox over SMTP (RFC 5321), one MIME message to all addresses. It has arrived when the mail server took it over (250). */
export function mailCarrier(place: MailConfig): Carrier {
  const transport = nodemailer.createTransport({
    host: place.host,
    port: place.port,
    secure: place.secure,
    ...(place.username && { auth: { user: place.username, pass: place.password ?? '' } }),
    connectionTimeout: 15_000,
    greetingTimeout: 15_000,
    socketTimeout: 120_000,
    disableFileAccess: true,
    disableUrlAccess: true,
  });
  return {
    async carry(cargo) {
      if (mailBytes(cargo.bytes) > place.limit)
        throw new CarryError(
          'too-large',
          `${place.name} takes mails up to ${bytesInWords(place.limit)}; this one would be ${bytesInWords(mailBytes(cargo.bytes))}`,
          false,
        );
      try {
        const info = await transport.sendMail({
          from: place.from,
          to: place.to,
          subject: cargo.subject,
          text: `${cargo.message ? `${cargo.message}\n\n` : ''}${cargo.fileName}, ${bytesInWords(cargo.bytes)}\nSHA-256 ${cargo.sha256}\n`,
          messageId: `<${cargo.id}@${place.from.split('@')[1]}>`,
          attachments: [
            { filename: cargo.fileName, contentType: mediaTypeOf(cargo.fileName), content: createReadStream(cargo.path) },
          ],
        });
        const refused = (info.rejected ?? []).map(String);
        if (refused.length)
          throw new CarryError('address-refused', `The mail server took it for some, but refused ${refused.join(', ')}`, false);
        return {
          where: place.name,
          at: new Date().toISOString(),
          bytes: cargo.bytes,
          sha256: cargo.sha256,
          how: 'accepted',
          receipt: String(info.response ?? ''),
        };
      } catch (error) {
        throw explain(error, place.name);
      }
    },
  };
}

function explain(error: unknown, who: string): Error {
  if (error instanceof CarryError) return error;
  const { code, responseCode, response } = error as { code?: string; responseCode?: number; response?: string };
  const words = response ? ` It said: ${response.slice(0, 200)}` : '';
  if (code === 'EAUTH')
    return new CarryError(
      'refused',
      `The mail server for ${who} refuses the server's user name and password. Whoever runs the server can put that right.`,
      false,
    );
  if (responseCode === 552 || responseCode === 534)
    return new CarryError('too-large', `The mailbox of ${who} refuses a mail of this size.${words}`, false);
  if (responseCode && responseCode >= 500)
    return new CarryError('refused', `The mail server for ${who} refused it.${words}`, false);
  if (responseCode && responseCode >= 400)
    return new CarryError('busy', `The mail server for ${who} cannot take it just now.${words}`, true);
  return networkFault(error, `The mail server for ${who}`) ?? (error as Error);
}
