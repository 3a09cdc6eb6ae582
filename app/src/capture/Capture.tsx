import { useRouter, type Href } from 'expo-router';
import { useEffect, useRef, useState, useSyncExternalStore } from 'react';
import { useWindowDimensions, View } from 'react-native';
import { Button, PaperProvider, Text } from 'react-native-paper';
import type { Sight } from '@libretto/core';
import { Trigger } from '@libretto/core/live/trigger';
import type { Page } from '@libretto/model';
import { deletePages, turnPages, changeSettings } from '../store/editing';
import { settingsId } from '../store/library';
import { store, useApp, useAppDispatch } from '../store/store';
import { useDocument } from '../store/useDocument';
import { Action } from '../ui/Action';
import { DropArea } from '../ui/DropArea';
import { Heading } from '../ui/Heading';
import { paperSettings } from '../ui/icons';
import { Progress } from '../ui/Progress';
import { darkTheme } from '../ui/theme';
import { darkTokens as t } from '../ui/tokens';
import { useKeys } from '../ui/useKeys';
import { useTitle } from '../ui/useTitle';
import { useSay } from '../ui/words/words';
import { onLooks } from '../work/alike';
import { cancelJob, jobOf } from '../work/jobs';
import { glimpseOf } from './camera/glimpse';
import { standIns } from './camera/standIn';
import { useCamera } from './camera/useCamera';
import { CaptureBar } from './CaptureBar';
import { CaptureRun } from './CaptureRun';
import { Judge } from './Judge';
import { LivePicture } from './LivePicture';
import { PageOver } from './PageOver';
import { ReadinessRows } from './ReadinessRows';
import { TakeRow } from './TakeRow';
import { Tray } from './Tray';
import { useLive } from './useLive';

/** From this width on the tray stands beside the picture, px. */
const sidePx = 1000;

/** Keys of pedals and remotes besides the usual ones: they send page or volume keys. */
const shutterKeys = [' ', 'enter', 'pagedown', 'pageup', 'audiovolumeup', 'audiovolumedown'];
/** Leaving waits so long for what was taken to be saved, ms; what takes longer is saved behind the next screen. */
const leaveMs = 4000;

export interface CaptureProps {
  into: string | null;
  /** A stand-in that was chosen instead of the device's camera. */
  standIn: string | null;
  /** A page that is to be taken again first. */
  again: string | null;
  /** The page before which what is taken stands; else it comes last. */
  before: string | null;
}

/** A reload comes back to the run. The address alone changes: the router would draw the screen anew between two shots. */
function rememberRun(documentId: string): void {
  const address = new URL(window.location.href);
  if (address.pathname !== '/capture' || address.searchParams.get('into') === documentId) return;
  address.searchParams.set('into', documentId);
  window.history.replaceState(window.history.state, '', address);
}

/** Page after page with the camera: the picture runs on, the pages pile up in the tray. */
export function Capture({ into, standIn, again: toRetake, before }: CaptureProps) {
  const say = useSay();
  const router = useRouter();
  const dispatch = useAppDispatch();
  const window = useWindowDimensions();
  useTitle(say('capture.title'));
  const allSettings = useApp((s) => s.library.settings[settingsId]!);
  const settings = allSettings.capture;
  const set = (change: Partial<typeof settings>) =>
    void dispatch(changeSettings(allSettings, { capture: { ...settings, ...change } }));

  const [run] = useState(() => new CaptureRun(dispatch, store.getState, into, before));
  const [judge] = useState(() => new Judge());
  const { documentId, shots: all, taken, saved } = useSyncExternalStore(run.subscribe, run.get, run.get);
  const [drained] = useState(() => () => run.exposed());
  const { camera, fault, choices, again } = useCamera(standIn ?? settings.cameraId, drained);
  const { document, pages } = useDocument(documentId);
  const importing = useApp((s) => jobOf(s, 'import', documentId ?? undefined));
  // A page is shown a moment before it is stored.
  const shots = all.filter((s) => !pages.some((p) => p.id === s.pageId));
  const [video, setVideo] = useState<HTMLVideoElement | null>(null);
  const [flash, setFlash] = useState(0);
  const [open, setOpen] = useState<string | null>(null);
  const [retaking, setRetaking] = useState(toRetake);
  const [leaving, setLeaving] = useState(false);
  const [trigger] = useState(() => new Trigger());
  /** Which page each of the trigger's shots became. */
  const shotPages = useRef<(string | null)[]>([]);
  const sight = useRef<Sight | null>(null);
  const opened = pages.find((p) => p.id === open);
  const retaken = pages.find((p) => p.id === retaking);
  const place = pages.findIndex((p) => p.id === before);
  // Those of the run and what stands before it, so that the newest is where it always is.
  const shown = place < 0 ? pages : pages.slice(0, place);
  const folioOf = (id: string | undefined) => (id ? pages.findIndex((p) => p.id === id) + 1 || null : null);

  const { view, hear } = useLive(video, camera !== null, camera?.stillEdgePx ?? null);

  useEffect(() => {
    if (document && pages.length) rememberRun(document.id);
  }, [document, pages.length]);
  useEffect(() => () => void run.exposed().then(() => judge.close()), [run, judge]);

  useEffect(
    () =>
      onLooks((pageId, signature) => {
        const shot = shotPages.current.indexOf(pageId);
        if (shot >= 0 && signature) trigger.learn(shot, signature);
      }),
    [trigger],
  );

  const { light } = settings;
  useEffect(() => {
    if (camera?.light) void camera.light(light).catch(() => {});
  }, [camera, light]);

  const take = () => {
    if (!camera || !video || leaving) return;
    const seen = sight.current;
    trigger.taken(seen?.signature ?? null);
    const shot = shotPages.current.push(null) - 1;
    navigator.vibrate?.(30);
    setFlash((n) => n + 1);
    setRetaking(null);
    void run
      .take({
        camera,
        judge: (still) => judge.judge(still, seen),
        glimpse: glimpseOf(video, seen?.quad ?? null),
        insteadOf: retaken?.id,
      })
      .then((page) => {
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
    const folio = folioOf(shotPages.current[shot] ?? undefined);
    if (shot === shotPages.current.length - 1) return folio ? say('capture.nextAfter', { folio }) : say('capture.next');
    return folio ? say('capture.before', { folio }) : say('capture.takenBefore');
  };
  useEffect(() => hear(onSight));
  const leave = (to: Href) => {
    // So that going back comes to this run again.
    if (documentId && document) router.setParams({ into: documentId });
    router.navigate(to);
  };
  const done = async () => {
    if (leaving) return;
    if (run.get().shots.length) {
      setLeaving(true);
      await Promise.race([run.filed(), new Promise((resolve) => setTimeout(resolve, leaveMs))]);
      setLeaving(false);
    }
    const id = run.get().documentId;
    const there = id && (store.getState().library.document[id]?.pageIds.length || run.get().shots.length);
    leave(there ? `/document/${id}` : '/');
  };
  useKeys(
    {
      ...Object.fromEntries(shutterKeys.map((key) => [key, take])),
      g: () => set({ grid: !settings.grid }),
      a: () => set({ bySelf: !settings.bySelf }),
      l: () => camera?.light && set({ light: !light }),
      escape: () => (retaking ? setRetaking(null) : void done()),
    },
    { enabled: !opened },
  );
  const bring = (files: readonly File[]) => {
    if (files.length) void run.add(files);
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

  const beside = window.width >= sidePx || window.width > 1.2 * window.height;
  return (
    <PaperProvider theme={darkTheme} settings={paperSettings}>
      <DropArea onFiles={bring}>
        {(chooseFiles) => (
          <View style={{ flex: 1, minHeight: 0, backgroundColor: t.paper }}>
            <CaptureBar
              name={document?.name ?? say('capture.new')}
              grid={settings.grid}
              onGrid={() => set({ grid: !settings.grid })}
              light={camera?.light ? light : null}
              onLight={() => set({ light: !light })}
              cameras={choices}
              camera={camera?.id ?? null}
              onCamera={choose}
              onFiles={chooseFiles}
              onClose={() => void done()}
            />
            <View style={{ flex: 1, minHeight: 0, flexDirection: beside ? 'row' : 'column' }}>
              {fault ? (
                <View style={{ flex: 1, minHeight: 0, backgroundColor: t.well, alignItems: 'center', justifyContent: 'center' }}>
                  <View role="alert" style={{ padding: 28, gap: 14, maxWidth: 420 }}>
                    <Heading level={2} variant="titleLarge">
                      {say(`capture.fault.${fault}.title`)}
                    </Heading>
                    <Text>{say(`capture.fault.${fault}.what`)}</Text>
                    <Action main onPress={chooseFiles}>
                      {say('capture.bringFiles')}
                    </Action>
                    {fault !== 'insecure' && fault !== 'unsupported' ? (
                      <Action onPress={again}>{say('common.retry')}</Action>
                    ) : null}
                    <Action onPress={() => choose(standIns[0]!.id)}>{say('capture.demoCamera')}</Action>
                  </View>
                </View>
              ) : (
                <LivePicture stream={camera?.stream ?? null} view={view} grid={settings.grid} flash={flash} onVideo={setVideo} />
              )}
              <View
                style={{
                  backgroundColor: t.paper,
                  width: beside ? 340 : undefined,
                  minHeight: 0,
                  paddingTop: 4,
                  justifyContent: 'flex-end',
                }}
              >
                <ReadinessRows view={view} />
                {importing ? (
                  <View role="status" style={{ paddingHorizontal: 14, gap: 4 }}>
                    <Progress
                      value={importing.done / Math.max(1, importing.total)}
                      label={say('capture.bringing', { done: importing.done, total: importing.total })}
                    />
                    <View style={{ flexDirection: 'row', alignItems: 'center', justifyContent: 'space-between' }}>
                      <Text variant="bodySmall" style={{ color: t.pencil }}>
                        {say('capture.bringing', { done: importing.done, total: importing.total })}
                      </Text>
                      <Button mode="text" compact onPress={() => dispatch(cancelJob(importing.id))}>
                        {say('common.stop')}
                      </Button>
                    </View>
                  </View>
                ) : null}
                {shots.length > 1 ? (
                  <Text role="status" variant="bodySmall" style={{ color: t.pencil, paddingHorizontal: 14 }}>
                    {say('capture.savingCount', { done: saved, total: taken })}
                  </Text>
                ) : null}
                {place < 0 ? null : (
                  <Text role="status" variant="bodySmall" style={{ color: t.pencil, paddingHorizontal: 14 }}>
                    {say('capture.inserting', { folio: place + 1 })}
                  </Text>
                )}
                <Tray
                  pages={shown}
                  shots={shots}
                  glimpses={run.glimpses}
                  retaking={retaking}
                  many={beside}
                  onOpen={(page) => setOpen(page.id)}
                />
                <TakeRow
                  pages={pages.length}
                  number={shown.length + shots.filter((s) => !s.insteadOf).length + 1}
                  retaking={retaken ? pages.indexOf(retaken) + 1 : null}
                  ready={camera !== null && !leaving}
                  leaving={leaving}
                  bySelf={settings.bySelf}
                  onTake={take}
                  onDone={retaking ? () => setRetaking(null) : () => void done()}
                  onBySelf={() => set({ bySelf: !settings.bySelf })}
                />
              </View>
            </View>
            {opened ? (
              <PageOver
                page={opened}
                folio={pages.indexOf(opened) + 1}
                of={pages.length}
                other={folioOf(opened.checks[0]?.pageId)}
                onStep={(by) => setOpen(pages[pages.indexOf(opened) + by]?.id ?? open)}
                onClose={() => setOpen(null)}
                onRetake={camera ? () => retake(opened) : null}
                onTurn={() => void dispatch(turnPages([opened]))}
                onDiscard={() => {
                  if (document) void dispatch(deletePages(document, [opened]));
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
