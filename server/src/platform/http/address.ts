import { createHmac } from 'node:crypto';
import { ipKeyGenerator } from 'express-rate-limit';
import type { Request } from 'express';

/** A household's or a company's connection has at least so many bits of its own (RFC 6177, from memory: a /56 or a /64). */
const IPV6_PREFIX = 56;

/**
 * Who calls, for limits: an IPv4 address, or an IPv6 prefix, since one connection has more IPv6 addresses than could ever
 * be counted. What a proxy says of the caller counts only if the proxy is a trusted one.
 */
export function callerKey(req: Pick<Request, 'ip'>): string {
  const ip = req.ip ?? '';
  const mapped = /^::ffff:(\d+\.\d+\.\d+\.\d+)$/i.exec(ip);
  return mapped ? mapped[1] : ipKeyGenerator(ip, IPV6_PREFIX);
}

/** The network around an address: a /24, or an IPv6 /48 (what one customer gets; RFC 6177, from memory). */
function prefixKey(req: Pick<Request, 'ip'>): string {
  const key = callerKey(req);
  return key.includes(':') ? ipKeyGenerator(req.ip ?? '', 48) : key.split('.').slice(0, 3).join('.');
}

/** Addresses are kept as keyed hashes: enough to count by, and of no use to whoever reads the table. */
export function callerHashes(req: Pick<Request, 'ip'>, secret: string): { address: Buffer; prefix: Buffer } {
  const hash = (text: string) => createHmac('sha256', secret).update(`caller:${text}`).digest();
  return { address: hash(callerKey(req)), prefix: hash(`prefix:${prefixKey(req)}`) };
}
