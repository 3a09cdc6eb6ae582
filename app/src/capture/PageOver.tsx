import { View } from 'react-native';
import { Text } from 'react-native-paper';
import type { Page } from '@libretto/model';
import { Action } from '../ui/Action';
import { Heading } from '../ui/Heading';
import { IconAction } from '../ui/IconAction';
import { Spinner } from '../ui/Spinner';
import { useKeys } from '../ui/useKeys';
import { Zoomable } from '../ui/Zoomable';
import { usePageImage } from '../work/usePageImage';
import { darkTokens as t } from '../ui/tokens';
import { checkInWords, problemAlone } from '../ui/words/format';
import { useSay } from '../ui/words/words';

export interface PageOverProps {
  page: Page;
  folio: number;
  of: number;
  /** Number of the page that its worst check names. */
  other: number | null;
  onStep: (by: 1 | -1) => void;
  onClose: () => void;
  /** Null while there is no camera to take it with. */
  onRetake: (() => void) | null;
  onTurn: () => void;
  onDiscard: () => void;
  onEdges: () => void;
}

/** One page of the run looked at closely, over the camera, which runs on. */
export function PageOver({ page, folio, of, other, onStep, onClose, onRetake, onTurn, onDiscard, onEdges }: PageOverProps) {
  const say = useSay();
  const { url, problem } = usePageImage(page, 'screen');
  const failed = page.state === 'failed' ? (page.problem ?? { code: 'not-read' }) : problem;
  const check = failed ? problemAlone(say, failed) : page.checks[0] && checkInWords(say, page.checks[0], other);
  useKeys(
    {
      escape: onClose,
      arrowleft: () => onStep(-1),
      arrowright: () => onStep(1),
      j: () => onStep(1),
      k: () => onStep(-1),
      r: onTurn,
      delete: onDiscard,
      backspace: onDiscard,
      t: () => onRetake?.(),
    },
    { over: true },
  );
  return (
    <View
      role="dialog"
      aria-modal
      aria-label={say('capture.page', { folio })}
      testID="page-over"
      style={{ position: 'absolute', top: 0, right: 0, bottom: 0, left: 0, backgroundColor: t.paper, zIndex: 4 }}
    >
      <View style={{ flexDirection: 'row', alignItems: 'center', minHeight: 52, paddingHorizontal: 4 }}>
        <IconAction icon="arrow-left" label={say('capture.backToCamera')} onPress={onClose} />
        <Heading level={2} variant="titleMedium" style={{ flex: 1 }}>
          {say('capture.page', { folio })}
          {check ? (
            <Text style={{ color: t.brass }}>
              {say('common.dot')}
              {check}
            </Text>
          ) : null}
        </Heading>
        <IconAction icon="vector-square" label={say('page.edges')} onPress={onEdges} />
        <IconAction icon="chevron-left" label={say('page.previous')} disabled={folio === 1} onPress={() => onStep(-1)} />
        <IconAction icon="chevron-right" label={say('page.next')} disabled={folio === of} onPress={() => onStep(1)} />
      </View>
      <div style={{ flex: 1, minHeight: 0, background: t.well }}>
        {url ? (
          <Zoomable key={page.id}>
            <img
              src={url}
              alt={say('capture.finished', { folio })}
              draggable={false}
              style={{ width: '100%', height: '100%', objectFit: 'contain' }}
            />
          </Zoomable>
        ) : (
          <View style={{ flex: 1, alignItems: 'center', justifyContent: 'center' }}>
            {failed ? <Text>{check}</Text> : <Spinner label={say('document.finishing')} />}
          </View>
        )}
      </div>
      <View style={{ flexDirection: 'row', gap: 8, padding: 12, justifyContent: 'center' }}>
        {onRetake ? (
          <Action tall main icon="camera-retake-outline" onPress={onRetake} style={{ flex: 1, maxWidth: 260 }}>
            {say('capture.retakeThis')}
          </Action>
        ) : null}
        <Action tall onPress={onTurn} disabled={!page.recipe}>
          {say('common.turn')}
        </Action>
        <Action tall onPress={onDiscard}>
          {say('capture.discard')}
        </Action>
      </View>
    </View>
  );
}
