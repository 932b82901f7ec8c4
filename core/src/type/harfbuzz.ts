/**
 * HarfBuzz by its raw WebAssembly exports: just what a typesetter calls, without the objects that the package's own
 * wrapper makes for every glyph, and without its top-level await, which loses a worker's first messages.
 * The two .wasm files are the package's; whoever starts the typesetter brings their bytes.
 */
type Fn = (...args: number[]) => number;

export interface Views {
  u16: Uint16Array;
  i32: Int32Array;
}

export interface HarfBuzz {
  call: Record<string, Fn>;
  memory: WebAssembly.Memory;
  /** Its memory as numbers; made again when it has grown, so ask again after every call. */
  views(): Views;
  /** Copies bytes into its memory and answers their address. They stay there for the life of the process. */
  keep(bytes: Uint8Array): number;
  /** Makes a JavaScript function callable from inside; `signature` has one letter a parameter, i or f. */
  callback(fn: (...args: number[]) => void, signature: string): number;
}

export const tag = (s: string): number =>
  (s.charCodeAt(0) << 24) | (s.charCodeAt(1) << 16) | (s.charCodeAt(2) << 8) | s.charCodeAt(3);

export async function startHarfBuzz(wasm: Uint8Array): Promise<HarfBuzz> {
  let memory: WebAssembly.Memory | null = null;
  const grow = (wanted: number): number => {
    if (!memory) return 0;
    const missing = wanted - memory.buffer.byteLength;
    // Half as much again, so that growing stays rare.
    memory.grow(Math.ceil((missing + wanted / 2) / 65_536));
    return 1;
  };
  const nothing = (): number => 0;
  const abort = (): never => {
    throw new Error('the shaping engine stopped');
  };
  const { instance } = await WebAssembly.instantiate(wasm as Uint8Array<ArrayBuffer>, {
    env: {
      emscripten_resize_heap: grow,
      _abort_js: abort,
      _setitimer_js: nothing,
      _emscripten_runtime_keepalive_clear: nothing,
    },
    wasi_snapshot_preview1: { proc_exit: abort },
  });
  const exports = instance.exports;
  memory = exports.memory as WebAssembly.Memory;
  const table = exports.__indirect_function_table as WebAssembly.Table;
  const call = exports as unknown as Record<string, Fn>;
  (call.__wasm_call_ctors ?? call._initialize)?.();
  const viewsOf = (buffer: ArrayBuffer): Views => ({
    u16: new Uint16Array(buffer),
    i32: new Int32Array(buffer),
  });
  let views = viewsOf(memory.buffer);
  const hb: HarfBuzz = {
    call,
    memory,
    views() {
      if (views.i32.length === 0) views = viewsOf(hb.memory.buffer);
      return views;
    },
    keep(bytes) {
      const at = call.malloc?.(bytes.length) ?? 0;
      new Uint8Array(hb.memory.buffer).set(bytes, at);
      return at;
    },
    callback(fn, signature) {
      const types = [...signature].map((c) => (c === 'i' ? 0x7f : 0x7d));
      const module = new WebAssembly.Module(
        new Uint8Array([
          0,
          0x61,
          0x73,
          0x6d,
          1,
          0,
          0,
          0, // magic and version
          1,
          types.length + 4,
          1,
          0x60,
          types.length,
          ...types,
          0, // one function type
          2,
          7,
          1,
          1,
          0x65,
          1,
          0x66,
          0,
          0, // import e.f
          7,
          5,
          1,
          1,
          0x66,
          0,
          0, // export f
        ]),
      );
      const wrapped = new WebAssembly.Instance(module, { e: { f: fn } }).exports.f;
      const index = table.grow(1);
      table.set(index, wrapped);
      return index;
    },
  };
  return hb;
}
