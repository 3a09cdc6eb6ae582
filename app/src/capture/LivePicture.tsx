import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { Text } from 'react-native-paper';
import { showStream } from './camera/camera';
import { Spinner } from '../ui/Spinner';
import { corner, darkTokens as t } from '../ui/tokens';
import { sayCode, useSay } from '../ui/words/words';
import { LiveOutline } from './LiveOutline';
import { useLiveView, type LiveViewStore } from './useLive';

export interface LivePictureProps {
  stream: MediaStream | null;
  view: LiveViewStore;
  grid: boolean;
  /** Counts the pictures taken; each gives a short flash. */
  flash: number;
  onVideo: (video: HTMLVideoElement | null) => void;
}

const flashStyle =
  '@keyframes libretto-flash{from{opacity:.7}to{opacity:0}}@media (prefers-reduced-motion: reduce){.libretto-flash{animation:none!important}}';

/** The running picture with the outline on it and one line of advice. */
export function LivePicture({ stream, view, grid, flash, onVideo }: LivePictureProps) {
  const say = useSay();
  const [video, setVideo] = useState<HTMLVideoElement | null>(null);
  const [box, setBox] = useState({ width: 0, height: 0 });
  const [size, setSize] = useState({ width: 4, height: 3 });
  useEffect(() => {
    if (video && stream) return showStream(video, stream);
  }, [video, stream]);
  useEffect(() => {
    onVideo(video);
    return () => onVideo(null);
  }, [onVideo, video]);
  const scale = Math.min(box.width / size.width, box.height / size.height) || 0;
  const shown = { width: size.width * scale, height: size.height * scale };
  return (
    <View
      style={{
        flex: 1,
        minHeight: 0,
        backgroundColor: t.well,
        alignItems: 'center',
        justifyContent: 'center',
        overflow: 'hidden',
      }}
      onLayout={(event) => setBox(event.nativeEvent.layout)}
    >
      <div style={{ position: 'relative', ...shown }}>
        <video
          ref={setVideo}
          muted
          playsInline
          aria-label={say('capture.live')}
          data-testid="live"
          style={{ width: '100%', height: '100%', display: 'block' }}
          onResize={(event) =>
            setSize({ width: event.currentTarget.videoWidth || 4, height: event.currentTarget.videoHeight || 3 })
          }
        />
        <div style={{ position: 'absolute', inset: 0, pointerEvents: 'none' }}>
          <Overlay view={view} {...shown} grid={grid} />
        </div>
        {flash ? (
          <div
            key={flash}
            data-testid="flash"
            className="libretto-flash"
            style={{
              position: 'absolute',
              inset: 0,
              background: '#FFFDF8',
              opacity: 0,
              animation: 'libretto-flash 220ms ease-out',
              pointerEvents: 'none',
            }}
          />
        ) : null}
        <style>{flashStyle}</style>
      </div>
      {stream ? null : <Spinner style={{ position: 'absolute' }} label={say('capture.opening')} />}
      <View aria-live="polite" style={{ position: 'absolute', bottom: 16 }}>
        {stream ? <Advice view={view} /> : null}
      </View>
    </View>
  );
}

function Overlay({ view, ...rest }: { view: LiveViewStore; width: number; height: number; grid: boolean }) {
  const { quad, readiness } = useLiveView(view);
  const ready = readiness !== null && Math.min(readiness.whole, readiness.close, readiness.light, readiness.still) >= 1;
  return <LiveOutline quad={quad} ready={ready} {...rest} />;
}

function Advice({ view }: { view: LiveViewStore }) {
  const say = useSay();
  const advice = useLiveView(view).readiness?.advice;
  if (!advice) return null;
  return (
    <View style={{ backgroundColor: 'rgba(20,18,17,0.86)', borderRadius: corner, paddingVertical: 9, paddingHorizontal: 16 }}>
      <Text variant="labelLarge" testID="advice">
        {sayCode(say, 'advice', { code: advice })}
      </Text>
    </View>
  );
}
