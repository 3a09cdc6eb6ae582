import { createReadStream } from 'node:fs';
import { isIP } from 'node:net';
import { Readable } from 'node:stream';
import MailComposer from 'nodemailer/lib/mail-composer';
import SMTPConnection from 'nodemailer/lib/smtp-connection';
import { bytesInWords, mailBytes, mediaTypeOf, type Heard, type TryAnswer } from '@libretto/model';
import { CarryError, DoubtError, networkFault, type Attempt, type Cargo, type Carrier } from '../carrier';
import { onThisMachine } from '../common';
import { addressWithin, type Reach } from '../reach';
import type { MailConfig } from './mailConfig';

/** Until it is connected and greeted, ms. */
const greetingMs = 30_000;
/** A server may take this long over its answer to a whole message (RFC 5321, 4.5.3.2.6), ms. */
const answerMs = 600_000;

/**
 * Mail over SMTP (RFC 5321), one MIME message to all addresses. It has arrived where the mail server took it over (250). Before the end of the message is sent,
 * from where on the server may deliver it, that is noted; what ends between there and the answer is in doubt.
 */
export function mailCarrier(place: MailConfig, reach: Reach = { privately: true }): Carrier {
  const domain = place.from.slice(place.from.indexOf('@') + 1);

  /** A connection that has been let in. */
  async function connect(signal: AbortSignal): Promise<{ connection: SMTPConnection; failed: Promise<never>; end: () => void }> {
    signal.throwIfAborted();
    const host = await addressWithin(place.host, reach);
    const connection = new SMTPConnection({
      host,
      port: place.port,
      secure: place.secure,
      requireTLS: !place.secure && !!place.username && !place.insecure && !onThisMachine(place.host),
      // The name that the certificate must be for.
      tls: isIP(place.host.replace(/^\[|\]$/g, '')) ? {} : { servername: place.host },
      connectionTimeout: greetingMs,
      greetingTimeout: greetingMs,
      socketTimeout: answerMs,
    });
    let end = () => connection.close();
    const failed = new Promise<never>((_resolve, reject) => {
      const stop = () => {
        reject(signal.reason as Error);
        connection.close();
      };
      connection.once('error', reject);
      signal.addEventListener('abort', stop, { once: true });
      end = () => {
        signal.removeEventListener('abort', stop);
        connection.quit();
        // Whoever does not say goodbye is left.
        setTimeout(() => connection.close(), 2000).unref();
      };
    });
    failed.catch(() => {});
    connection.on('error', () => {});
    try {
      const connected = new Promise<void>((resolve, reject) =>
        connection.connect((error) => (error ? reject(error) : resolve())),
      );
      await Promise.race([connected, failed]);
      if (place.username) {
        const credentials = { user: place.username, pass: place.password ?? '' };
        const letIn = new Promise<void>((resolve, reject) =>
          connection.login(credentials, (error) => (error ? reject(error) : resolve())),
        );
        await Promise.race([letIn, failed]);
      }
    } catch (error) {
      connection.close();
      throw explain(error, place.name);
    }
    return { connection, failed, end };
  }

  /** Sends to those addresses; what the server said of each. @throws DoubtError, CarryError, and what else goes wrong before anything was handed over. */
  async function mail(
    to: readonly string[],
    message: Readable,
    { signal, handing }: Pick<Attempt, 'signal' | 'handing'>,
  ): Promise<{ response: string; heard: Heard[] }> {
    const { connection, failed, end } = await connect(signal);
    let handed = false;
    // Read only once the server waits for the message (354).
    const held = Readable.from(
      (async function* () {
        for await (const chunk of message) yield chunk as Buffer;
        await handing(to.map((address): Heard => ({ address, state: 'open', reply: '' })));
        handed = true;
      })(),
      { objectMode: false },
    );
    try {
      const sent = new Promise<{ response: string; rejectedErrors?: Refusal[] }>((resolve, reject) =>
        connection.send({ from: place.from, to: [...to] }, held, (error, info) =>
          error ? reject(error) : resolve(info as unknown as { response: string; rejectedErrors?: Refusal[] }),
        ),
      );
      const { response, rejectedErrors } = await Promise.race([sent, failed]);
      const refusals = new Map((rejectedErrors ?? []).map((r) => [r.recipient, r]));
      return {
        response,
        heard: to.map((address): Heard => {
          const refusal = refusals.get(address);
          return refusal ? heardOf(address, refusal) : { address, state: 'accepted', reply: response };
        }),
      };
    } catch (error) {
      const { responseCode, rejectedErrors } = error as Refusal;
      // An answer is certain, whatever it says; so is everything before the message's end.
      if (handed && !responseCode)
        throw new DoubtError(
          `${place.name} was handed the mail and then did not answer. It may have arrived or not.`,
          to.map((address): Heard => ({ address, state: 'doubt', reply: 'no answer' })),
        );
      if (rejectedErrors?.length) {
        const heard = rejectedErrors.map((refusal) => heardOf(refusal.recipient!, refusal));
        throw new CarryError(
          'address-refused',
          wordsOf(heard),
          heard.some((h) => h.state === 'open'),
          { heard },
        );
      }
      throw explain(error, place.name);
    } finally {
      held.destroy();
      message.destroy();
      end();
    }
  }

  return {
    async carry(cargo, attempt) {
      if (mailBytes(cargo.bytes) > place.limit)
        throw new CarryError(
          'too-large',
          `${place.name} takes mails up to ${bytesInWords(place.limit)}; this one would be ${bytesInWords(mailBytes(cargo.bytes))}`,
          false,
        );
      const { to, cc } = recipients(place, cargo);
      const all = [...new Set([...to, ...cc])];
      if (!all.length) throw new CarryError('no-address', `There is no address to mail it to`, false);
      const before = new Map(cargo.heard.map((h) => [h.address, h]));
      const open = all.filter((address) => (before.get(address)?.state ?? 'open') === 'open');
      const messageId = `<${cargo.id}@${domain}>`;
      let response = '';
      let fresh: readonly Heard[] = [];
      if (open.length) {
        const composed = new MailComposer({
          from: place.from,
          to,
          cc,
          subject: cargo.subject,
          text: `${cargo.message ? `${cargo.message}\n\n` : ''}${cargo.fileName}, ${bytesInWords(cargo.bytes)}\nSHA-256 ${cargo.sha256}\n`,
          messageId,
          attachments: [
            { filename: cargo.fileName, contentType: mediaTypeOf(cargo.fileName), content: createReadStream(cargo.path) },
          ],
          disableFileAccess: true,
          disableUrlAccess: true,
        }).compile();
        ({ response, heard: fresh } = await mail(open, composed.createReadStream(), attempt));
      }
      const heard = all.map((address) => fresh.find((h) => h.address === address) ?? before.get(address)!);
      if (heard.some((h) => h.state !== 'accepted'))
        throw new CarryError(
          'address-refused',
          wordsOf(heard),
          heard.some((h) => h.state === 'open'),
          { heard },
        );
      return {
        where: cargo.to?.length ? `${place.name}: ${all.join(', ')}` : place.name,
        at: new Date().toISOString(),
        bytes: cargo.bytes,
        sha256: cargo.sha256,
        how: 'accepted',
        receipt: response || heard[0]!.reply,
        messageId,
        heard,
      };
    },

    async attempt(signal) {
      const done: string[] = [];
      try {
        const { end } = await connect(signal);
        end();
        done.push('reached', 'letIn');
        const message = new MailComposer({
          from: place.from,
          to: place.from,
          subject: 'Libretto can send from here',
          text: `Libretto tried this place at ${new Date().toISOString()} by a mail to itself.\n`,
        }).compile();
        const { heard } = await mail([place.from], message.createReadStream(), { signal, handing: async () => {} });
        if (heard[0]!.state !== 'accepted') throw new CarryError('refused', wordsOf(heard), false);
        done.push('mailed');
        return { done, failed: null } satisfies TryAnswer;
      } catch (error) {
        const fault = explain(error, place.name);
        return {
          done,
          failed: {
            reason:
              fault instanceof CarryError || fault instanceof DoubtError
                ? fault.message
                : 'The server has a fault of its own; see its log',
          },
        };
      }
    },
  };
}

interface Refusal {
  recipient?: string;
  code?: string;
  responseCode?: number;
  response?: string;
  rejectedErrors?: Refusal[];
}

/** 4xx is for now, 5xx for good (RFC 5321, 4.2.1). */
function heardOf(address: string, { responseCode = 550, response = '' }: Refusal): Heard {
  return { address, state: responseCode < 500 ? 'open' : 'refused', reply: response };
}

function wordsOf(heard: readonly Heard[]): string {
  const list = (state: Heard['state']) => heard.filter((h) => h.state === state);
  const accepted = list('accepted').map((h) => h.address);
  const parts = [
    ...(accepted.length ? [`${accepted.join(', ')}: taken over`] : []),
    ...list('refused').map((h) => `${h.address}: refused (${h.reply.slice(0, 120)})`),
    ...list('open').map((h) => `${h.address}: not just now (${h.reply.slice(0, 120)})`),
  ];
  return parts.join('; ');
}

/** Addresses typed at sending, else those of the place. */
function recipients(place: MailConfig, cargo: Cargo): { to: string[]; cc: string[] } {
  const typed = (cargo.to?.length ?? 0) + (cargo.cc?.length ?? 0) > 0;
  return typed ? { to: cargo.to ?? [], cc: cargo.cc ?? [] } : { to: place.to, cc: [] };
}

function explain(error: unknown, who: string): Error {
  if (error instanceof CarryError || error instanceof DoubtError) return error;
  const { code, responseCode, response } = error as Refusal;
  const words = response ? ` It said: ${response.slice(0, 200)}` : '';
  if (code === 'EAUTH')
    return new CarryError('refused', `The mail server for ${who} refuses the user name and password that the server has for it. Change them under Places, or ask whoever runs the server.`, false); // prettier-ignore
  if (code === 'ETLS')
    return new CarryError('not-encrypted', `The mail server for ${who} offers no encryption that can be trusted; a password is not sent to it.`, false); // prettier-ignore
  if (code === 'EMESSAGE' && /larger than allowed/.test((error as Error).message))
    return new CarryError('too-large', `The mailbox of ${who} refuses a mail of this size.`, false);
  if (responseCode === 552 || responseCode === 534)
    return new CarryError('too-large', `The mailbox of ${who} refuses a mail of this size.${words}`, false);
  if (responseCode && responseCode >= 500)
    return new CarryError('refused', `The mail server for ${who} refused it.${words}`, false);
  if (responseCode && responseCode >= 400)
    return new CarryError('busy', `The mail server for ${who} cannot take it just now.${words}`, true);
  return networkFault(error, `The mail server for ${who}`) ?? (error as Error);
}
