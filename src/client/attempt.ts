import { toast } from 'sonner';
import { Refusal } from './answers';

/** Does something at the server, and says plainly when it could not be done; whether it was done. */
export async function attempt(what: string, work: () => Promise<unknown>): Promise<boolean> {
  try {
    await work();
    return true;
  } catch (error) {
    toast.error(`${what} did not work: ${error instanceof Refusal ? error.message : 'the server cannot be reached'}.`);
    return false;
  }
}
