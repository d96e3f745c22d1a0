"use client";
import { createContext, useContext, type CSSProperties, type ReactNode } from "react";

/** Width and height of a picture, in its own pixels. */
export interface PictureSize {
  width: number;
  height: number;
}

const Sizes = createContext<ReadonlyMap<string, PictureSize>>(new Map());

/** Says how large the pictures at these addresses are, to whatever draws them within. */
export function PictureSizes({
  sizes,
  children,
}: {
  sizes: ReadonlyMap<string, PictureSize>;
  children: ReactNode;
}) {
  return <Sizes.Provider value={sizes}>{children}</Sizes.Provider>;
}

/** Keeps the room that a picture will take, so that nothing jumps when it comes. */
const roomFor = ({ width, height }: PictureSize): CSSProperties => ({
  width: `min(100%, ${width}px, ${(60 * width) / height}vh)`,
  aspectRatio: `${width} / ${height}`,
});

/** A picture that people put to an item. */
export function Picture({ src, alt, className }: { src: string; alt: string; className: string }) {
  const size = useContext(Sizes).get(src);
  return (
    // Of people's own, served by our own route; the optimiser has no part in it.
    // eslint-disable-next-line @next/next/no-img-element
    <img
      src={src}
      alt={alt}
      loading="lazy"
      className={className}
      style={size === undefined ? undefined : roomFor(size)}
    />
  );
}
