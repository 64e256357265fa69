import { randomBytes } from 'node:crypto';
import type { MiddlewareHandler } from 'hono';
import { Problem } from './problems.ts';

const LOOPBACK = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/;

/**
 * Refuses requests that were led here by another site: the Host must be a loopback name (DNS rebinding), and a
 * write must come from a page of this very server, as JSON or CSV, which no plain form can send.
 */
export const guardOrigin: MiddlewareHandler = async (context, next) => {
  const host = context.req.header('host') ?? '';
  if (!LOOPBACK.test(host)) {
    throw new Problem(421, 'Wrong host', 'This server answers only to its loopback address.');
  }
  const { method } = context.req;
  const site = context.req.header('sec-fetch-site');
  const origin = context.req.header('origin');
  const foreign =
    (origin !== undefined && origin !== `http://${host}`) || site === 'cross-site' || site === 'same-site';
  const navigation = method === 'GET' && context.req.header('sec-fetch-mode') === 'navigate';
  if (foreign && !navigation) {
    throw new Problem(403, 'Foreign origin', 'Requests from other sites are refused.');
  }
  await next();
};

/** A script that is built to work beside the page. */
const WORKER = /^\/assets\/[a-z]+\.worker-[\w-]+\.js$/;

/** Headers of every answer; the nonce lets the page's own style elements in, and no script that is not a file. */
export const secureHeaders: MiddlewareHandler<{ Variables: { nonce: string } }> = async (context, next) => {
  const nonce = randomBytes(16).toString('base64');
  context.set('nonce', nonce);
  await next();
  const policy = [
    "default-src 'none'",
    // A worker measures recordings with compiled code that it brings along; pages compile nothing.
    WORKER.test(context.req.path) ? "script-src 'self' 'wasm-unsafe-eval'" : "script-src 'self'",
    "worker-src 'self'",
    `style-src 'self' 'nonce-${nonce}'`,
    "font-src 'self'",
    "img-src 'self' data: blob:",
    "connect-src 'self'",
    "manifest-src 'self'",
    "base-uri 'none'",
    "form-action 'none'",
    "frame-ancestors 'none'",
  ];
  context.header('Content-Security-Policy', policy.join('; '));
  context.header('X-Content-Type-Options', 'nosniff');
  context.header('Referrer-Policy', 'no-referrer');
  context.header('Cross-Origin-Opener-Policy', 'same-origin');
  context.header('Cross-Origin-Resource-Policy', 'same-origin');
};
