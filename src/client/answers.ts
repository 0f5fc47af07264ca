import { formatFaults, type Fault } from '@/core/schema/faults';

/** The server refused; `faults` say why. */
export class Refusal extends Error {
  constructor(readonly faults: Fault[]) {
    super(formatFaults(faults));
  }
}

export async function call(path: string, init?: RequestInit): Promise<Response> {
  return fetch(path, { ...init, headers: { 'content-type': 'application/json' } });
}

export async function answer<T>(response: Response): Promise<T> {
  if (response.ok) return (await response.json()) as T;
  const body = (await response.json().catch(() => null)) as { faults?: Fault[] } | null;
  throw new Refusal(body?.faults ?? [{ path: '$', message: `the server answered ${response.status}` }]);
}
