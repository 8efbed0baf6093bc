const asked = new Map<string, Promise<Response>>();

/** An answer that has waited longer than this is asked for again, since the papers may have changed. */
const fresh = 10_000;

/**
 * Asks for addresses while the program itself is still on its way. This module has none of its own to wait for, so that it
 * runs first.
 */
export function askEarly(...addresses: string[]): void {
  for (const address of addresses) {
    const answer = fetch(address, { credentials: 'same-origin' });
    answer.catch(() => undefined);
    asked.set(address, answer);
    setTimeout(() => asked.delete(address), fresh);
  }
}

/** What was asked for early, given out once: a second asking wants what is there by then. */
export function early(request: Request): Promise<Response> | undefined {
  const address = request.method === 'GET' && new URL(request.url).pathname;
  if (!address || new URL(request.url).search || !asked.has(address)) return undefined;
  const answer = asked.get(address);
  asked.delete(address);
  return answer;
}
