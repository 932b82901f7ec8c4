/** One's own machine, by the request's Host. */
export const isLocal = (host: string): boolean => /^(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/.test(host);
