import { Plain } from '../cluster.mjs';

/** Runs a command: what somebody at the keyboard can put right is said in a sentence, anything else with where it was. */
export async function saying(work: () => Promise<void>): Promise<void> {
  try {
    await work();
  } catch (error) {
    console.error(error instanceof Plain ? error.message : error);
    process.exitCode = 1;
  }
}
