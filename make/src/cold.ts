/**
 * V8 set up for a process that makes one file and ends. Such a process spends more on compiling than on running: large
 * inlined functions are compiled again and again on the other core, where the PDF's thread has its work, and the shaping
 * engine's one huge function would take a third of a second that the process then waits for at its end. Measured in
 * docs/speed.md.
 *
 * Loops are not compiled while they run: their functions are called again soon, and would be compiled twice.
 */
import { setFlagsFromString } from 'node:v8';

export function settleForOneFile(): void {
  setFlagsFromString('--max-inlined-bytecode-size-cumulative=100');
  setFlagsFromString('--no-use-osr');
  setFlagsFromString('--wasm-tiering-budget=1000000000');
}
