import { crc32, deflateSync } from "node:zlib";

type Box = readonly [left: number, top: number, width: number, height: number];
type Colour = readonly [red: number, green: number, blue: number];

/** A drawing of coloured boxes, written as a PNG file (RFC 2083). */
export class Drawing {
  private readonly pixels: Buffer;

  constructor(
    private readonly width: number,
    private readonly height: number,
    ground: Colour,
  ) {
    this.pixels = Buffer.alloc(width * height * 3);
    this.box([0, 0, width, height], ground);
  }

  box([left, top, width, height]: Box, colour: Colour): this {
    for (let y = Math.max(0, top); y < Math.min(this.height, top + height); y++)
      for (let x = Math.max(0, left); x < Math.min(this.width, left + width); x++)
        this.pixels.set(colour, (y * this.width + x) * 3);
    return this;
  }

  png(): Buffer {
    const head = Buffer.alloc(13);
    head.writeUInt32BE(this.width, 0);
    head.writeUInt32BE(this.height, 4);
    // Eight bits for each of red, green and blue.
    head.set([8, 2, 0, 0, 0], 8);
    const line = this.width * 3;
    const lines = Array.from({ length: this.height }, (_, y) =>
      Buffer.concat([Buffer.from([0]), this.pixels.subarray(y * line, (y + 1) * line)]),
    );
    const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
    return Buffer.concat([
      signature,
      chunk("IHDR", head),
      chunk("IDAT", deflateSync(Buffer.concat(lines))),
      chunk("IEND", Buffer.alloc(0)),
    ]);
  }
}

function chunk(kind: string, content: Buffer): Buffer {
  const named = Buffer.concat([Buffer.from(kind, "latin1"), content]);
  const around = Buffer.alloc(8);
  around.writeUInt32BE(content.length, 0);
  around.writeUInt32BE(crc32(named), 4);
  return Buffer.concat([around.subarray(0, 4), named, around.subarray(4)]);
}
