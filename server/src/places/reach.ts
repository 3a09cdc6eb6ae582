import { lookup as ask, type LookupAddress } from 'node:dns';
import type { LookupFunction } from 'node:net';
import ipaddr from 'ipaddr.js';
import { CarryError } from './carrier';

/** What an address must be to be talked to by a place that was added in the app. */
export interface Reach {
  /** Whether machines of the own network and this one may be reached, as an office's own mail server is. */
  privately: boolean;
}

/** Whether an address belongs to everybody: neither private, loopback, link-local nor any other special range (RFC 6890), also where it is IPv4 within IPv6. */
export function isPublic(address: string): boolean {
  return ipaddr.isValid(address) && ipaddr.process(address).range() === 'unicast';
}

/**
 * A resolver for sockets that gives out only addresses that may be reached: looked at when the connection is made, so that a name which leads elsewhere a moment
 * later leads nowhere.
 */
export function lookupWithin(reach: Reach): LookupFunction {
  return (host, options, done) =>
    ask(host, { ...options, all: true }, (error, found) => {
      if (error) return done(error, '');
      const addresses = found as LookupAddress[];
      if (!reach.privately && !addresses.every(({ address }) => isPublic(address))) return done(notAllowed(host), '');
      if (options.all) return done(null, addresses);
      return done(null, addresses[0]!.address, addresses[0]!.family);
    });
}

/** The one address to connect to; @throws where it must not be reached. An address in figures does not pass through a resolver. */
export function addressWithin(host: string, reach: Reach): Promise<string> {
  const bare = host.replace(/^\[|\]$/g, '');
  if (ipaddr.isValid(bare) || /^[0-9.]+$|^0x/i.test(bare)) {
    if (!reach.privately && !isPublic(bare)) return Promise.reject(notAllowed(bare));
    return Promise.resolve(bare);
  }
  return new Promise((resolve, reject) =>
    lookupWithin(reach)(bare, {}, (error, address) => (error ? reject(error) : resolve(address as string))),
  );
}

const notAllowed = (host: string) =>
  new CarryError('not-allowed', `${host} lies within a private network, which this server does not talk to. Whoever runs it can allow that.`, false); // prettier-ignore
