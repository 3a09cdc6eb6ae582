import { useState } from 'react';
import { View } from 'react-native';
import { Text } from 'react-native-paper';
import type { Page } from '@libretto/model';
import { Heading } from '../ui/Heading';
import { IconAction } from '../ui/IconAction';
import { Spinner } from '../ui/Spinner';
import { darkTokens as t } from '../ui/tokens';
import { useKeys } from '../ui/useKeys';
import { useWide } from '../ui/useWide';
import { problemAlone } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { Zoomable } from '../ui/Zoomable';
import { usePageOnScreen } from '../work/usePageImage';
import { usePrintImage } from '../work/usePrintImage';

export interface LookCloselyProps {
  pages: readonly Page[];
  /** The one to begin with. */
  start: string | undefined;
  onClose: () => void;
  onOpen: (page: Page) => void;
}

/** From here on the page is shown in all its dots. */
const fineScale = 1.3;

/** Pages at full size, as they will be sent: flipped through, two beside each other where it is wide, zoomed until each dot can be seen. */
export function LookClosely({ pages, start, onClose, onOpen }: LookCloselyProps) {
  const say = useSay();
  const wide = useWide();
  const [at, setAt] = useState(() =>
    Math.max(
      0,
      pages.findIndex((p) => p.id === start),
    ),
  );
  const [fine, setFine] = useState(false);
  const [two, setTwo] = useState(false);
  const step = two && wide ? 2 : 1;
  const first = Math.min(step === 2 ? at - (at % 2) : at, pages.length - 1);
  const shown = pages.slice(first, first + step);
  const go = (by: 1 | -1) => {
    const next = first + by * step;
    if (next < 0 || next >= pages.length) return;
    setAt(next);
    setFine(false);
  };
  useKeys(
    {
      escape: onClose,
      arrowleft: () => go(-1),
      arrowright: () => go(1),
      pageup: () => go(-1),
      pagedown: () => go(1),
      home: () => setAt(0),
      end: () => setAt(pages.length - 1),
      j: () => go(1),
      k: () => go(-1),
      d: () => setTwo(!two),
      enter: () => onOpen(shown[0]!),
    },
    { over: true },
  );
  if (!shown.length) return null;
  const size = shown[0]!.made;
  const ratio = size ? (size.widthMm / size.heightMm) * shown.length : undefined;
  const last = first + shown.length;
  const folios = shown.length > 1 ? say('look.pages', { from: first + 1, to: last, total: pages.length }) : say('look.page', { page: first + 1, total: pages.length }); // prettier-ignore
  return (
    <View
      role="dialog"
      aria-modal
      aria-label={say('look.title')}
      testID="look-closely"
      style={{ position: 'fixed' as 'absolute', top: 0, right: 0, bottom: 0, left: 0, backgroundColor: t.paper, zIndex: 4 }}
    >
      <View style={{ flexDirection: 'row', alignItems: 'center', minHeight: 52, paddingHorizontal: 4 }}>
        <IconAction icon="close" iconColor={t.ink} label={say('look.close')} onPress={onClose} />
        <Heading level={2} variant="titleMedium" style={{ flex: 1, color: t.ink }}>
          {folios}
        </Heading>
        {wide && pages.length > 1 ? (
          <IconAction
            icon="book-open-page-variant-outline"
            iconColor={t.ink}
            label={say('look.two')}
            pressed={two}
            onPress={() => setTwo(!two)}
          />
        ) : null}
        <IconAction icon="pencil" iconColor={t.ink} label={say('look.edit')} onPress={() => onOpen(shown[0]!)} />
        <IconAction
          icon="chevron-left"
          iconColor={t.ink}
          label={say('page.previous')}
          disabled={first === 0}
          onPress={() => go(-1)}
        />
        <IconAction
          icon="chevron-right"
          iconColor={t.ink}
          label={say('page.next')}
          disabled={last >= pages.length}
          onPress={() => go(1)}
        />
      </View>
      <div style={{ flex: 1, minHeight: 0, background: t.well }}>
        <Zoomable
          key={shown.map((p) => p.id).join()}
          keys
          {...(ratio && { ratio })}
          {...(size && { fullWidth: (size.widthMm / 25.4) * size.dpi * shown.length })}
          onScale={(scale) => setFine((was) => was || scale > fineScale)}
          onSwipe={go}
        >
          <div style={{ width: '100%', height: '100%', display: 'flex', justifyContent: 'center' }}>
            {shown.map((page, i) => (
              <FullPage key={page.id} page={page} folio={first + i + 1} fine={fine} share={shown.length} />
            ))}
          </div>
        </Zoomable>
      </div>
    </View>
  );
}

function FullPage({ page, folio, fine, share }: { page: Page; folio: number; fine: boolean; share: number }) {
  const say = useSay();
  const screen = usePageOnScreen(page);
  const full = usePrintImage(fine ? page : null);
  const url = full ?? screen.url;
  const problem = page.state === 'failed' ? (page.problem ?? { code: 'not-read' }) : screen.problem;
  const box = { width: `${100 / share}%`, height: '100%' };
  if (!url)
    return (
      <div style={{ ...box, display: 'flex', alignItems: 'center', justifyContent: 'center' }}>
        {problem ? (
          <Text style={{ color: t.ink }}>{problemAlone(say, problem)}</Text>
        ) : (
          <Spinner label={say('document.finishing')} />
        )}
      </div>
    );
  return (
    <img
      src={url}
      alt={say('capture.finished', { folio })}
      data-fine={full ? true : undefined}
      draggable={false}
      style={{ ...box, objectFit: 'contain', padding: share > 1 ? 6 : 0, boxSizing: 'border-box' }}
    />
  );
}
