"use client";
import {
  createContext,
  useContext,
  useEffect,
  useRef,
  useState,
  type HTMLAttributes,
  type ReactNode,
} from "react";

/** So far below and beside what is in sight everything is drawn already. */
const AHEAD_PX = { down: 400, beside: 800 };

type Told = (inSight: boolean, height: number) => void;

/** Tells parts of an area when they come into its sight and leave it. */
class Watch {
  private told = new Map<Element, Told>();
  private observer: IntersectionObserver | null = null;

  begin(root: Element): void {
    this.observer = new IntersectionObserver(
      (entries) => {
        for (const { target, isIntersecting, boundingClientRect } of entries)
          this.told.get(target)?.(isIntersecting, boundingClientRect.height);
      },
      { root, rootMargin: `${AHEAD_PX.down}px ${AHEAD_PX.beside}px` },
    );
    for (const part of this.told.keys()) this.observer.observe(part);
  }

  end(): void {
    this.observer?.disconnect();
    this.observer = null;
  }

  add(part: Element, tell: Told): () => void {
    this.told.set(part, tell);
    this.observer?.observe(part);
    return () => {
      this.told.delete(part);
      this.observer?.unobserve(part);
    };
  }
}

const WatchContext = createContext<Watch | null>(null);

/** An area that scrolls, whose parts are drawn as they come into sight. */
export function SightArea({ children, ...area }: HTMLAttributes<HTMLDivElement>) {
  const root = useRef<HTMLDivElement>(null);
  const [watch] = useState(() => new Watch());
  useEffect(() => {
    watch.begin(root.current!);
    return () => watch.end();
  }, [watch]);
  return (
    <WatchContext.Provider value={watch}>
      <div ref={root} {...area}>
        {children}
      </div>
    </WatchContext.Provider>
  );
}

/**
 * A part of such an area. Out of sight its place stays as high as it was, or as it will about be.
 */
export function InSight({
  first,
  keep,
  height,
  children,
}: {
  /** Whether it is drawn before anything is known of where it stands. */
  first: boolean;
  /** Whether it is drawn wherever it stands, as what has the focus. */
  keep: boolean;
  /** In pixels, about, until it was drawn once. */
  height: number;
  children: () => ReactNode;
}) {
  const watch = useContext(WatchContext);
  const part = useRef<HTMLDivElement>(null);
  const [seen, setSeen] = useState(first);
  const [was, setWas] = useState<number | null>(null);
  useEffect(
    () =>
      watch?.add(part.current!, (inSight, high) => {
        if (!inSight && high > 0) setWas(high);
        setSeen(inSight);
      }),
    [watch],
  );
  const drawn = seen || keep || watch === null;
  return (
    <div ref={part} role="presentation" style={drawn ? undefined : { height: was ?? height }}>
      {drawn && children()}
    </div>
  );
}
