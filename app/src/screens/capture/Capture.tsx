import { useRouter } from 'expo-router';
import { useEffect, useRef, useState } from 'react';
import { useWindowDimensions, View } from 'react-native';
import { ActivityIndicator, IconButton, PaperProvider, Text, TouchableRipple } from 'react-native-paper';
import type { Signature } from '@libretto/core';
import {
  CameraError,
  faultWords,
  showStream,
  type CameraChoice,
  type CameraFault,
  type RunningCamera,
} from '../../camera/camera';
import { deviceCameras, openDevice } from '../../camera/device';
import { Trigger } from '../../camera/trigger';
import { Action } from '../../components/Action';
import { useKeys } from '../../components/useKeys';
import { pagesOf } from '../../state/editing';
import { settingsChanged, settingsId } from '../../state/library';
import { useApp, useAppDispatch } from '../../state/store';
import { darkTheme } from '../../theme/theme';
import { corner, darkTokens as t, widePx } from '../../theme/tokens';
import { LiveOutline } from './LiveOutline';
import { ReadinessRows } from './ReadinessRows';
import { Tray } from './Tray';
import { useLive } from './useLive';
import { useRun } from './useRun';

/** Keys of pedals and remotes besides the usual ones: they send page or volume keys. */
const shutterKeys = [' ', 'enter', 'pagedown', 'pageup', 'audiovolumeup', 'audiovolumedown'];

/** Page after page with the camera: the picture runs on, the pages pile up in the tray. */
export function Capture({ into, onFiles }: { into: string | null; onFiles: () => void }) {
  const router = useRouter();
  const dispatch = useAppDispatch();
  const window = useWindowDimensions();
  const state = useApp((s) => s);
  const { grid, bySelf, cameraId } = state.library.settings[settingsId]!.capture;
  const [video, setVideo] = useState<HTMLVideoElement | null>(null);
  const [camera, setCamera] = useState<RunningCamera | null>(null);
  const [fault, setFault] = useState<CameraFault | null>(null);
  const [tries, setTries] = useState(0);
  const [choices, setChoices] = useState<CameraChoice[]>([]);
  const [light, setLight] = useState(false);
  const [box, setBox] = useState({ width: 0, height: 0 });
  const [size, setSize] = useState({ width: 4, height: 3 });
  const [flash, setFlash] = useState(0);
  const trigger = useRef(new Trigger());
  const signature = useRef<Signature | null>(null);
  const { shoot, pending } = useRun(into);
  const document = into ? state.library.document[into] : undefined;
  const pages = pagesOf(state, document);
  const set = (change: Partial<{ grid: boolean; bySelf: boolean; cameraId: string | null }>) =>
    dispatch(settingsChanged({ capture: { grid, bySelf, cameraId, ...change } }));

  useEffect(() => {
    let open: RunningCamera | null = null;
    let gone = false;
    const start = async () => {
      try {
        // A camera that was chosen before may not be there any more.
        const opened = await openDevice(cameraId).catch((error) =>
          cameraId && error instanceof CameraError && error.fault === 'none' ? openDevice(null) : Promise.reject(error),
        );
        open = opened;
        if (gone) return opened.close();
        opened.onLost(() => setFault('lost'));
        setCamera(opened);
        setFault(null);
        setChoices(await deviceCameras());
      } catch (error) {
        setFault(error instanceof CameraError ? error.fault : 'fault');
      }
    };
    void start();
    return () => {
      gone = true;
      open?.close();
      setCamera(null);
    };
  }, [cameraId, tries]);

  useEffect(() => {
    if (!video || !camera) return;
    return showStream(video, camera.stream);
  }, [video, camera]);

  useEffect(() => {
    // The screen stays awake while the camera runs, where the browser can do that.
    if (!camera || !navigator.wakeLock) return;
    const lock = navigator.wakeLock.request('screen').catch(() => null);
    return () => void lock.then((l) => l?.release());
  }, [camera]);

  const take = () => {
    if (!camera || fault) return;
    trigger.current.taken(signature.current);
    navigator.vibrate?.(30);
    setFlash((n) => n + 1);
    shoot(camera);
  };
  const live = useLive(video, camera !== null && !fault, (readiness, seen) => {
    signature.current = seen;
    if (trigger.current.step(readiness, seen, performance.now()) && bySelf) take();
  });
  useKeys({
    ...Object.fromEntries(shutterKeys.map((key) => [key, take])),
    g: () => set({ grid: !grid }),
    a: () => set({ bySelf: !bySelf }),
    escape: () => done(),
  });
  const done = () => (document ? router.navigate(`/document/${document.id}`) : router.navigate('/'));

  const wide = window.width >= widePx;
  const scale = Math.min(box.width / size.width, box.height / size.height) || 0;
  const shown = { width: size.width * scale, height: size.height * scale };
  const number = pages.length + pending + 1;
  const advice = fault ? '' : !camera ? '' : (live.readiness?.advice ?? '');
  const nextLens = () => {
    const at = choices.findIndex((c) => c.id === (cameraId ?? camera?.stream.getVideoTracks()[0]?.getSettings().deviceId));
    if (choices.length > 1) set({ cameraId: choices[(at + 1) % choices.length]!.id });
  };

  const controls = (
    <View style={{ backgroundColor: t.paper, width: wide ? 340 : undefined, paddingTop: 4, justifyContent: 'flex-end' }}>
      <ReadinessRows readiness={live.readiness} />
      <View style={wide ? { flex: 1 } : null}>
        <Tray pages={pages} pending={pending} />
      </View>
      <View style={{ flexDirection: 'row', gap: 10, padding: 12, alignItems: 'center' }}>
        <Action tall onPress={done} style={{ minWidth: 96 }}>
          {pages.length ? `Done · ${pages.length}` : 'Close'}
        </Action>
        <Action tall main disabled={!camera || fault !== null} onPress={take} style={{ flex: 1 }}>
          {`Take page ${number}`}
        </Action>
        <TouchableRipple
          role="switch"
          aria-checked={bySelf}
          aria-label="Pages take themselves"
          onPress={() => set({ bySelf: !bySelf })}
          style={{ minWidth: 64, minHeight: 48, alignItems: 'center', justifyContent: 'center' }}
        >
          <View style={{ alignItems: 'center' }}>
            <IconButton
              icon={bySelf ? 'hand-back-right-off-outline' : 'hand-back-right-outline'}
              size={22}
              iconColor={bySelf ? t.moss : t.pencil}
              style={{ margin: 0, height: 26 }}
              aria-hidden
              tabIndex={-1}
            />
            <Text variant="bodySmall" style={{ color: bySelf ? t.moss : t.pencil }}>
              {bySelf ? 'by itself' : 'by hand'}
            </Text>
          </View>
        </TouchableRipple>
      </View>
    </View>
  );

  return (
    <PaperProvider theme={darkTheme}>
      <View style={{ flex: 1, backgroundColor: t.paper }}>
        <View style={{ flexDirection: 'row', alignItems: 'center', minHeight: 52, paddingHorizontal: 4 }}>
          <IconButton style={{ margin: 0 }} icon="close" accessibilityLabel="Close the camera" onPress={done} />
          <Text variant="titleMedium" role="heading" numberOfLines={1} style={{ flex: 1 }}>
            {document?.name ?? 'New document'}
          </Text>
          <IconButton
            style={{ margin: 0 }}
            icon={grid ? 'grid' : 'grid-off'}
            accessibilityLabel={grid ? 'Hide the grid' : 'Show the grid'}
            onPress={() => set({ grid: !grid })}
          />
          {camera?.light ? (
            <IconButton
              style={{ margin: 0 }}
              icon={light ? 'flashlight' : 'flashlight-off'}
              accessibilityLabel={light ? 'Light off' : 'Light on'}
              onPress={() => {
                void camera.light!(!light).catch(() => {});
                setLight(!light);
              }}
            />
          ) : null}
          {choices.length > 1 ? (
            <IconButton style={{ margin: 0 }} icon="camera-flip-outline" accessibilityLabel="Next camera" onPress={nextLens} />
          ) : null}
          <IconButton style={{ margin: 0 }} icon="image-plus" accessibilityLabel="From files" onPress={onFiles} />
        </View>
        <View style={{ flex: 1, minHeight: 0, flexDirection: wide ? 'row' : 'column' }}>
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
            {fault ? (
              <View role="alert" style={{ padding: 28, gap: 14, maxWidth: 420 }}>
                <Text variant="titleLarge">{faultWords[fault].title}</Text>
                <Text>{faultWords[fault].what}</Text>
                <Action main onPress={onFiles}>
                  Bring in from files
                </Action>
                {fault !== 'insecure' && fault !== 'unsupported' ? (
                  <Action onPress={() => setTries((n) => n + 1)}>Try again</Action>
                ) : null}
              </View>
            ) : (
              <div style={{ position: 'relative', width: shown.width, height: shown.height }}>
                <video
                  ref={setVideo}
                  muted
                  playsInline
                  aria-label="Live picture"
                  data-testid="live"
                  style={{ width: '100%', height: '100%', display: 'block' }}
                  onResize={(event) =>
                    setSize({ width: event.currentTarget.videoWidth || 4, height: event.currentTarget.videoHeight || 3 })
                  }
                />
                <div style={{ position: 'absolute', inset: 0, pointerEvents: 'none' }}>
                  <LiveOutline
                    quad={live.quad}
                    width={shown.width}
                    height={shown.height}
                    grid={grid}
                    ready={live.readiness !== null && !live.readiness.advice}
                  />
                </div>
                {flash ? (
                  <div
                    key={flash}
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
                <style>
                  {
                    '@keyframes libretto-flash{from{opacity:.7}to{opacity:0}}@media (prefers-reduced-motion: reduce){.libretto-flash{animation:none!important}}'
                  }
                </style>
              </div>
            )}
            {!fault && !camera ? (
              <ActivityIndicator style={{ position: 'absolute' }} accessibilityLabel="Opening the camera" />
            ) : null}
            <View aria-live="polite" style={{ position: 'absolute', bottom: 16 }}>
              {advice ? (
                <View
                  style={{
                    backgroundColor: 'rgba(20,18,17,0.86)',
                    borderRadius: corner,
                    paddingVertical: 9,
                    paddingHorizontal: 16,
                  }}
                >
                  <Text variant="labelLarge">{advice}</Text>
                </View>
              ) : null}
            </View>
          </View>
          {controls}
        </View>
      </View>
    </PaperProvider>
  );
}
