import { View } from 'react-native';
import { ActivityIndicator, IconButton, Text } from 'react-native-paper';
import { TransformComponent, TransformWrapper } from 'react-zoom-pan-pinch';
import type { Page } from '@libretto/model';
import { Action } from '../../components/Action';
import { useKeys } from '../../components/useKeys';
import { usePageImage } from '../../components/usePageImage';
import { darkTokens as t } from '../../theme/tokens';

export interface PageOverProps {
  page: Page;
  folio: number;
  of: number;
  onStep: (by: 1 | -1) => void;
  onClose: () => void;
  /** Null while there is no camera to take it with. */
  onRetake: (() => void) | null;
  onTurn: () => void;
  onDiscard: () => void;
  onEdges: () => void;
}

/** One page of the run looked at closely, over the camera, which runs on. */
export function PageOver({ page, folio, of, onStep, onClose, onRetake, onTurn, onDiscard, onEdges }: PageOverProps) {
  const { url, problem } = usePageImage(page, 'screen');
  const check = page.state === 'failed' ? (page.problem ?? 'The photo could not be read') : page.checks[0]?.words;
  useKeys({
    escape: onClose,
    arrowleft: () => onStep(-1),
    arrowright: () => onStep(1),
    j: () => onStep(1),
    k: () => onStep(-1),
    r: onTurn,
    delete: onDiscard,
    backspace: onDiscard,
    t: () => onRetake?.(),
  });
  return (
    <View
      role="dialog"
      aria-label={`Page ${folio}`}
      testID="page-over"
      style={{ position: 'absolute', top: 0, right: 0, bottom: 0, left: 0, backgroundColor: t.paper, zIndex: 4 }}
    >
      <View style={{ flexDirection: 'row', alignItems: 'center', minHeight: 52, paddingHorizontal: 4 }}>
        <IconButton style={{ margin: 0 }} icon="arrow-left" accessibilityLabel="Back to the camera" onPress={onClose} />
        <Text variant="titleMedium" role="heading" style={{ flex: 1 }}>
          Page {folio}
          {check ? <Text style={{ color: t.brass }}> · {check}</Text> : null}
        </Text>
        <IconButton style={{ margin: 0 }} icon="vector-square" accessibilityLabel="Edges" onPress={onEdges} />
        <IconButton
          style={{ margin: 0 }}
          icon="chevron-left"
          accessibilityLabel="Page before"
          disabled={folio === 1}
          onPress={() => onStep(-1)}
        />
        <IconButton
          style={{ margin: 0 }}
          icon="chevron-right"
          accessibilityLabel="Next page"
          disabled={folio === of}
          onPress={() => onStep(1)}
        />
      </View>
      <div style={{ flex: 1, minHeight: 0, background: t.well }}>
        {url ? (
          <TransformWrapper key={page.id} maxScale={8} doubleClick={{ mode: 'toggle', step: 1.4 }}>
            <TransformComponent wrapperStyle={{ width: '100%', height: '100%' }} contentStyle={{ width: '100%', height: '100%' }}>
              <img
                src={url}
                alt={`Page ${folio}, finished`}
                draggable={false}
                style={{ width: '100%', height: '100%', objectFit: 'contain' }}
              />
            </TransformComponent>
          </TransformWrapper>
        ) : (
          <View style={{ flex: 1, alignItems: 'center', justifyContent: 'center' }}>
            {problem || page.state === 'failed' ? (
              <Text>{problem ?? check}</Text>
            ) : (
              <ActivityIndicator accessibilityLabel="Finishing" />
            )}
          </View>
        )}
      </div>
      <View style={{ flexDirection: 'row', gap: 8, padding: 12, justifyContent: 'center' }}>
        {onRetake ? (
          <Action tall main icon="camera-retake-outline" onPress={onRetake} style={{ flex: 1, maxWidth: 260 }}>
            Take it again
          </Action>
        ) : null}
        <Action tall onPress={onTurn} disabled={!page.recipe}>
          Turn
        </Action>
        <Action tall onPress={onDiscard}>
          Discard
        </Action>
      </View>
    </View>
  );
}
