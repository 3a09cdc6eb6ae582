const whole = 10_000;

export interface SnippetProps {
  /** The page's picture, and its width over its height. */
  url: string;
  ratio: number;
  /** What is cut from it, in ten-thousandths of the page. */
  box: { x: number; y: number; width: number; height: number };
  /** How high it is shown, and how wide at most; px. */
  height?: number;
  maxWidth?: number;
}

/** The spot of the page that something was read from. */
export function Snippet({ url, ratio, box, height = 18, maxWidth = 190 }: SnippetProps) {
  const high = (height * whole) / box.height;
  const wide = Math.min(high * ratio, (maxWidth * whole) / box.width);
  const tall = wide / ratio;
  return (
    <div
      aria-hidden
      style={{
        width: (box.width / whole) * wide,
        height: (box.height / whole) * tall,
        backgroundImage: `url(${url})`,
        backgroundSize: `${wide}px ${tall}px`,
        backgroundPosition: `${-(box.x / whole) * wide}px ${-(box.y / whole) * tall}px`,
      }}
    />
  );
}
