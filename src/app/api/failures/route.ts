import { listFailures } from '@/server/failures';
import { handled } from '../handle';

/** Every failure noted at the bench, newest first. */
export const GET = handled(async (): Promise<Response> => Response.json(await listFailures()));
