import type { FastifyReply } from 'fastify';

/** Aborted when the one who asks has gone away before the answer was sent. */
export function goneSignal(reply: FastifyReply): AbortSignal {
  const gone = new AbortController();
  reply.raw.once('close', () => {
    if (!reply.raw.writableFinished) gone.abort(new Error('The page that asked has gone.'));
  });
  return gone.signal;
}
