/**
 * The list at the end of a zip (its central directory), for what the unpacking package does not check: whether an entry
 * is encrypted, and what its size and checksum should be. Layout: APPNOTE.TXT 6.3, §4.3.12 and §4.3.16.
 */
import { strFromU8 } from 'fflate';

export interface ZipEntry {
  readonly name: string;
  readonly encrypted: boolean;
  /** Bytes when unpacked, and the CRC-32 of those. */
  readonly size: number;
  readonly crc: number;
}

const END = 0x06054b50;
const ENTRY = 0x02014b50;
const END_SIZE = 22;
const ENTRY_SIZE = 46;

/** The entries that a zip lists, or null when it has no sound list. */
export function readZipList(bytes: Uint8Array): ZipEntry[] | null {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  // A comment of up to 65,535 bytes may follow the end record.
  let end = bytes.length - END_SIZE;
  const least = Math.max(0, end - 65535);
  while (end >= least && view.getUint32(end, true) !== END) end--;
  if (end < least || end < 0) return null;
  const count = view.getUint16(end + 10, true);
  let at = view.getUint32(end + 16, true);
  const out: ZipEntry[] = [];
  for (let i = 0; i < count; i++) {
    if (at + ENTRY_SIZE > bytes.length || view.getUint32(at, true) !== ENTRY) return null;
    const name = view.getUint16(at + 28, true);
    const next = at + ENTRY_SIZE + name + view.getUint16(at + 30, true) + view.getUint16(at + 32, true);
    if (next > bytes.length) return null;
    const flags = view.getUint16(at + 8, true);
    out.push({
      name: strFromU8(bytes.subarray(at + ENTRY_SIZE, at + ENTRY_SIZE + name), (flags & 0x800) === 0),
      encrypted: (flags & 1) === 1,
      crc: view.getUint32(at + 16, true),
      size: view.getUint32(at + 24, true),
    });
    at = next;
  }
  return out;
}

let table: Uint32Array | null = null;

/** The CRC-32 of ISO 3309, as zips use it: reflected, polynomial 0xEDB88320. */
export function crc32(bytes: Uint8Array): number {
  table ??= Uint32Array.from({ length: 256 }, (_, n) => {
    let c = n;
    for (let k = 0; k < 8; k++) c = c & 1 ? 0xedb88320 ^ (c >>> 1) : c >>> 1;
    return c;
  });
  let crc = 0xffffffff;
  for (let i = 0; i < bytes.length; i++)
    crc = (table[(crc ^ (bytes[i] as number)) & 0xff] as number) ^ (crc >>> 8);
  return (crc ^ 0xffffffff) >>> 0;
}
