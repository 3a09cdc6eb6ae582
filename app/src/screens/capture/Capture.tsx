import { useRouter, type Href } from 'expo-router';
import { useEffect, useRef, useState } from 'react';
import { useWindowDimensions, View } from 'react-native';
import { PaperProvider, ProgressBar, Text } from 'react-native-paper';
import { Trigger, type Sight } from '@libretto/core';
import type { Page } from '@libretto/model';
import { faultWords } from '../../camera/camera';
import { standIns } from '../../camera/standIn';
import { glimpseOf } from '../../camera/glimpse';
import { sharpestStill } from '../../camera/moment';
import { useCamera } from '../../camera/useCamera';
import { Action } from '../../components/Action';
import { useKeys } from '../../components/useKeys';
import { deletePages, turnPages } from '../../state/editing';
import { settingsChanged, settingsId } from '../../state/library';
import { useApp, useAppDispatch } from '../../state/store';
import { darkTheme } from '../../theme/theme';
import { darkTokens as t, widePx } from '../../theme/tokens';
import { CaptureBar } from './CaptureBar';
import { DropArea } from './DropArea';
import { LivePicture } from './LivePicture';
import { PageOver } from './PageOver';
import { ReadinessRows } from './ReadinessRows';
import { TakeRow } from './TakeRow';
import { Tray } from './Tray';
import { useLive } from './useLive';
import { useRun } from './useRun';

/** Keys of pedals and remotes besides the usual ones: they send page or volume keys. */
const shutterKeys = [' ', 'enter', 'pagedown', 'pageup', 'audiovolumeup', 'audiovolumedown'];
const noPages: readonly string[] = [];

export interface CaptureProps {
  into: string | null;
  /** A stand-in that was chosen instead of the device's camera. */
  standIn: string | null;
  /** A page that is to be taken again first. */
  again: string | null;
}

/** Page after page with the camera: the picture runs on, the pages pile up in the tray. */
export function Capture({ into, standIn, again: toRetake }: CaptureProps) {
  const router = useRouter();
  const dispatch = useAppDispatch();
  const window = useWindowDimensions();
  const settings = useApp((s) => s.library.settings[settingsId]!.capture);
  const set = (change: Partial<typeof settings>) => dispatch(settingsChanged({ capture: { ...settings, ...change } }));

  const { camera, fault, choices, again } = useCamera(standIn ?? settings.cameraId);
  const { take: keep, add, documentId, shots, glimpses } = useRun(into);
  const document = useApp((s) => (documentId ? s.library.document[documentId] : undefined));
  const records = useApp((s) => s.library.page);
  const importing = useApp((s) =>
    s.work.import && s.work.import.documentId === (documentId ?? s.work.import.documentId) ? s.work.import : null,
  );
  const pages = (document?.pageIds ?? noPages).flatMap((id) => records[id] ?? []);
  const [video, setVideo] = useState<HTMLVideoElement | null>(null);
  const [flash, setFlash] = useState(0);
  const [open, setOpen] = useState<string | null>(null);
  const [retaking, setRetaking] = useState(toRetake);
  const stop = useRef<AbortController | null>(null);
  const [trigger] = useState(() => new Trigger());
  /** Which page each of the trigger's shots became. */
  const shotPages = useRef<(string | null)[]>([]);
  const sight = useRef<Sight | null>(null);
  const opened = pages.find((p) => p.id === open);
  const retaken = pages.find((p) => p.id === retaking);

  const { view, judge, hear } = useLive(video, camera !== null, camera?.stillEdgePx ?? null);

  const { light } = settings;
  useEffect(() => {
    if (camera?.light) void camera.light(light).catch(() => {});
  }, [camera, light]);

  const take = () => {
    if (!camera || !video) return;
    const seen = sight.current;
    trigger.taken(seen?.signature ?? null);
    const shot = shotPages.current.push(null) - 1;
    navigator.vibrate?.(30);
    setFlash((n) => n + 1);
    setRetaking(null);
    const still = sharpestStill(camera, (blob) => judge(blob, seen));
    void keep(still, glimpseOf(video, seen?.quad ?? null), retaken).then((page) => {
      shotPages.current[shot] = page?.id ?? null;
      // What could not be kept is to be taken again.
      if (!page) trigger.forget(shot);
    });
  };
  const onSight = (seen: Sight, now: number): string => {
    sight.current = seen;
    if (opened || !settings.bySelf) return '';
    const { take: ripe, again: shot } = trigger.step(seen.readiness, seen.signature, now);
    if (ripe) take();
    if (shot === null) return '';
    const folio = pages.findIndex((p) => p.id === shotPages.current[shot]) + 1;
    if (shot === shotPages.current.length - 1) return folio ? `Page ${folio} is taken: the next one` : 'Taken: the next one';
    return folio ? `This is page ${folio}, taken before` : 'Taken before';
  };
  useEffect(() => hear(onSight));
  const leave = (to: Href) => {
    // So that going back comes to this run again.
    if (documentId) router.setParams({ into: documentId });
    router.navigate(to);
  };
  const done = () => leave(document ? `/document/${document.id}` : '/');
  useKeys(
    {
      ...Object.fromEntries(shutterKeys.map((key) => [key, take])),
      g: () => set({ grid: !settings.grid }),
      a: () => set({ bySelf: !settings.bySelf }),
      l: () => camera?.light && set({ light: !light }),
      escape: () => (retaking ? setRetaking(null) : done()),
    },
    { enabled: !opened },
  );
  const bring = (files: readonly File[]) => {
    if (!files.length) return;
    stop.current = new AbortController();
    void add(files, stop.current.signal);
  };
  const choose = (id: string) => {
    if (standIns.some((s) => s.id === id)) return router.setParams({ camera: id, ...(documentId && { into: documentId }) });
    set({ cameraId: id });
    router.setParams({ camera: '', ...(documentId && { into: documentId }) });
  };
  const retake = (page: Page) => {
    const shot = shotPages.current.indexOf(page.id);
    if (shot >= 0) trigger.forget(shot);
    setOpen(null);
    setRetaking(page.id);
  };

  const beside = window.width >= widePx || window.width > 1.2 * window.height;
  return (
    <PaperProvider theme={darkTheme}>
      <DropArea onFiles={bring}>
        {(chooseFiles) => (
          <View style={{ flex: 1, backgroundColor: t.paper }}>
            <CaptureBar
              name={document?.name ?? 'New document'}
              grid={settings.grid}
              onGrid={() => set({ grid: !settings.grid })}
              light={camera?.light ? light : null}
              onLight={() => set({ light: !light })}
              cameras={choices}
              camera={camera?.id ?? null}
              onCamera={choose}
              onFiles={chooseFiles}
              onClose={done}
            />
            <View style={{ flex: 1, minHeight: 0, flexDirection: beside ? 'row' : 'column' }}>
              {fault ? (
                <View style={{ flex: 1, backgroundColor: t.well, alignItems: 'center', justifyContent: 'center' }}>
                  <View role="alert" style={{ padding: 28, gap: 14, maxWidth: 420 }}>
                    <Text variant="titleLarge">{faultWords[fault].title}</Text>
                    <Text>{faultWords[fault].what}</Text>
                    <Action main onPress={chooseFiles}>
                      Bring in from files
                    </Action>
                    {fault !== 'insecure' && fault !== 'unsupported' ? <Action onPress={again}>Try again</Action> : null}
                    <Action onPress={() => choose(standIns[0]!.id)}>Look round with the stand-in</Action>
                  </View>
                </View>
              ) : (
                <LivePicture stream={camera?.stream ?? null} view={view} grid={settings.grid} flash={flash} onVideo={setVideo} />
              )}
              <View
                style={{ backgroundColor: t.paper, width: beside ? 340 : undefined, paddingTop: 4, justifyContent: 'flex-end' }}
              >
                <ReadinessRows view={view} />
                {importing ? (
                  <View role="status" style={{ paddingHorizontal: 14, gap: 4 }}>
                    <ProgressBar progress={importing.done / Math.max(1, importing.total)} />
                    <View style={{ flexDirection: 'row', alignItems: 'center', justifyContent: 'space-between' }}>
                      <Text variant="bodySmall" style={{ color: t.pencil }}>
                        Bringing in: {importing.done} of {importing.total} safe
                      </Text>
                      <Action compact onPress={() => stop.current?.abort()}>
                        Stop
                      </Action>
                    </View>
                  </View>
                ) : null}
                <Tray
                  pages={pages}
                  shots={shots}
                  glimpses={glimpses}
                  retaking={retaking}
                  many={beside}
                  onOpen={(page) => setOpen(page.id)}
                />
                <TakeRow
                  pages={pages.length}
                  number={pages.length + shots.filter((s) => !s.insteadOf).length + 1}
                  retaking={retaken ? pages.indexOf(retaken) + 1 : null}
                  ready={camera !== null}
                  bySelf={settings.bySelf}
                  onTake={take}
                  onDone={retaking ? () => setRetaking(null) : done}
                  onBySelf={() => set({ bySelf: !settings.bySelf })}
                />
              </View>
            </View>
            {opened ? (
              <PageOver
                page={opened}
                folio={pages.indexOf(opened) + 1}
                of={pages.length}
                onStep={(by) => setOpen(pages[pages.indexOf(opened) + by]?.id ?? open)}
                onClose={() => setOpen(null)}
                onRetake={camera ? () => retake(opened) : null}
                onTurn={() => dispatch(turnPages([opened]))}
                onDiscard={() => {
                  if (document) dispatch(deletePages(document, [opened]));
                  setOpen(null);
                }}
                onEdges={() => leave(`/document/${opened.documentId}/page/${opened.id}`)}
              />
            ) : null}
          </View>
        )}
      </DropArea>
    </PaperProvider>
  );
}
