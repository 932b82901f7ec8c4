import { build } from 'esbuild';
await build({ entryPoints:['bench/h.ts'], bundle:true, platform:'node', format:'esm', outfile:'bench/hb.mjs', external:['sharp','@stdlib/*'], banner:{js:"import { createRequire as __cr } from 'node:module'; const require = __cr(import.meta.url);"}, logLevel:'error'});
