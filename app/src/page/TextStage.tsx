import { Fragment, useRef } from 'react';
import type { Page } from '@libretto/model';
import type { ReadText, ReadWord } from '../store/files';
import { useMeasured } from '../ui/useMeasured';
import { useTokens } from '../ui/theme';
import { fonts } from '../ui/tokens';
import { useSay } from '../ui/words/words';
import { usePageOnScreen } from '../work/usePageImage';
import { fold } from './finding';
import { sure } from './sure';

export interface TextStageProps {
  page: Page;
  text: ReadText | null;
  /** What can be taken out of it, framed: ten-thousandths of the page. */
  frames: readonly { x: number; y: number; width: number; height: number }[];
  /** What is looked for; its words are marked. */
  query: string;
}

const margin = 12;
const ten = 10_000;

let pen: CanvasRenderingContext2D | null | undefined;
/** How wide a word is set at a size, px. */
function widthOf(text: string, px: number): number {
  pen ??= document.createElement('canvas').getContext('2d');
  if (!pen) return text.length * px * 0.5;
  pen.font = `${px}px ${fonts.text}, sans-serif`;
  return pen.measureText(text).width || 1;
}

/** The page large, its words over it where they stand: selected and copied like any text. */
export function TextStage({ page, text, frames, query }: TextStageProps) {
  const t = useTokens();
  const say = useSay();
  const box = useRef<HTMLDivElement>(null);
  const stage = useMeasured(box);
  const { url, image } = usePageOnScreen(page);
  const scale = image ? Math.min((stage.width - 2 * margin) / image.width, (stage.height - 2 * margin) / image.height) : 0;
  const [width, height] = image && scale > 0 ? [image.width * scale, image.height * scale] : [0, 0];
  const wanted = fold(query).split(/\s+/).filter(Boolean);
  const isHit = (word: string) => wanted.length > 0 && wanted.some((w) => fold(word).includes(w));
  return (
    <div ref={box} style={{ position: 'relative', flex: 1, minHeight: 0, overflow: 'auto', background: t.well }}>
      {url && width ? (
        <div
          role="document"
          aria-label={say('text.onPage')}
          lang={text?.language}
          style={{
            position: 'absolute',
            left: Math.max(margin, (stage.width - width) / 2),
            top: Math.max(margin, (stage.height - height) / 2),
            width,
            height,
          }}
        >
          <img
            src={url}
            alt=""
            draggable={false}
            style={{
              width,
              height,
              display: 'block',
              boxShadow: `0 0 0 1px ${t.hairline}`,
              pointerEvents: 'none',
              userSelect: 'none',
            }}
          />
          {frames.map((frame, i) => (
            <div
              key={`frame ${i}`}
              aria-hidden
              style={{
                position: 'absolute',
                left: (frame.x * width) / ten - 4,
                top: (frame.y * height) / ten - 4,
                width: (frame.width * width) / ten + 8,
                height: (frame.height * height) / ten + 8,
                border: `2px dashed ${t.brass}`,
                borderRadius: 4,
                pointerEvents: 'none',
              }}
            />
          ))}
          {text?.lines.map((line, i) => (
            <Fragment key={i}>
              {/* What is copied keeps its lines. */}
              {i ? <br role="presentation" /> : null}
              <TextLine line={line} width={width} height={height} isHit={isHit} brass={t.brass} />
            </Fragment>
          ))}
        </div>
      ) : null}
    </div>
  );
}

interface TextLineProps {
  line: readonly ReadWord[];
  width: number;
  height: number;
  isHit: (word: string) => boolean;
  brass: string;
}

/** One line: a block of its own, so that what is copied keeps its lines; each word as wide as the print under it. */
function TextLine({ line, width, height, isHit, brass }: TextLineProps) {
  const top = Math.min(...line.map(([, , y]) => y));
  const bottom = Math.max(...line.map(([, , y, , h]) => y + h));
  const left = line[0]![1];
  const px = ((bottom - top) * height) / ten;
  return (
    <div
      style={{
        position: 'absolute',
        whiteSpace: 'pre',
        left: (left * width) / ten,
        top: (top * height) / ten,
        height: px,
        lineHeight: `${px}px`,
        color: 'transparent',
      }}
    >
      {line.map(([word, x, , w, , right], i) => {
        const before = line[i - 1];
        const gap = before ? ((x - before[1] - before[3]) * width) / ten : 0;
        const wide = (w * width) / ten;
        const size = px * 0.8;
        return (
          <span key={i}>
            {i ? <span style={{ fontSize: 0 }}> </span> : null}
            <span
              style={{
                display: 'inline-block',
                verticalAlign: 'top',
                width: wide,
                height: px,
                marginLeft: Math.max(0, gap),
                fontSize: size,
                fontFamily: `${fonts.text}, sans-serif`,
                background: isHit(word) ? `color-mix(in srgb, ${brass} 40%, transparent)` : undefined,
                boxShadow: right < sure ? `inset 0 -2px 0 ${brass}` : undefined,
              }}
            >
              <span
                style={{ display: 'inline-block', transformOrigin: '0 0', transform: `scaleX(${wide / widthOf(word, size)})` }}
              >
                {word}
              </span>
            </span>
          </span>
        );
      })}
    </div>
  );
}
