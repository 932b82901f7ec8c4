/**
 * The PDF library leaves rejections of its own unhandled when a file is damaged, beside the answer that it gives. They
 * would end the process; what it answers is all that counts.
 */
export function ignoreLateRejections(): void {
  process.on('unhandledRejection', () => undefined);
}
