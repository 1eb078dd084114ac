/** Packets of numbers: `ZTM1`, header length, header (JSON), arrays; little endian. */
const MAGIC = "ZTM1";

/** The header of a packet, and where its arrays begin. */
export function readPacket<T>(packet: ArrayBuffer, of: string): { head: T; start: number } {
  if (String.fromCharCode(...new Uint8Array(packet, 0, MAGIC.length)) !== MAGIC)
    throw new Error(`not a packet of ${of}`);
  const length = new DataView(packet).getUint32(4, true);
  const head = JSON.parse(new TextDecoder().decode(new Uint8Array(packet, 8, length))) as T;
  return { head, start: 8 + length };
}
