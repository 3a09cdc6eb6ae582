import { Link, Slot, useGlobalSearchParams, usePathname } from 'expo-router';
import { useState } from 'react';
import { useWindowDimensions, View } from 'react-native';
import { Badge, Icon, Snackbar, Text, TouchableRipple } from 'react-native-paper';
import { undone } from '../../state/library';
import { useApp, useAppDispatch } from '../../state/store';
import { noticed, refusedRead } from '../../state/work';
import { Action } from '../../components/Action';
import { Banner } from '../../components/Banner';
import { useKeys } from '../../components/useKeys';
import { useTokens } from '../../theme/theme';
import { corner, fonts, widePx } from '../../theme/tokens';
import { ProofSheet } from '../proof/ProofSheet';
import { Shelf } from '../shelf/Shelf';
import { KeysDialog } from './KeysDialog';

/** Whether screens stand side by side. */
export function useWide(): boolean {
  return useWindowDimensions().width >= widePx;
}

/** What surrounds every screen: the bar or rail, the other panes at wide size, and words that need saying. */
export function Frame() {
  const t = useTokens();
  const wide = useWide();
  const { width } = useWindowDimensions();
  const path = usePathname();
  const { id, pageId, from } = useGlobalSearchParams<{ id?: string; pageId?: string; from?: string }>();
  const [keys, setKeys] = useState(false);
  useKeys({ '?': () => setKeys(true) });
  const inDocument = path.startsWith('/document/') && id;
  const inPage = inDocument && path.includes('/page/');
  const pane = { borderRightWidth: 1, borderColor: t.hairline } as const;
  return (
    <View style={{ flex: 1, flexDirection: wide ? 'row' : 'column', backgroundColor: t.paper, height: '100%' }}>
      {wide ? <Rail path={path} onKeys={() => setKeys(true)} /> : null}
      {wide && inDocument && (!inPage || width >= 1180) ? (
        <View style={{ width: Math.min(352, width * 0.3), ...pane }}>
          <Shelf selected={id} />
        </View>
      ) : null}
      {wide && inPage ? (
        <View style={{ width: 384, ...pane }}>
          <ProofSheet id={id} {...(pageId && { selected: pageId })} sending={false} back={width < 1180} />
        </View>
      ) : null}
      <View
        style={{
          flex: 1,
          minWidth: 0,
          minHeight: 0,
          maxWidth: wide && path === '/' ? 620 : undefined,
          ...(wide && path === '/' ? pane : {}),
        }}
      >
        <Slot />
      </View>
      {!wide && !inDocument && (path !== '/capture' || from === 'files') ? <BottomBar path={path} /> : null}
      <Words />
      {keys ? <KeysDialog onClose={() => setKeys(false)} /> : null}
    </View>
  );
}

function useWaiting(): number {
  return useApp(
    (s) => Object.values(s.library.delivery).filter((d) => d.state !== 'arrived' && d.reason !== 'Taken back by you').length,
  );
}

function BottomBar({ path }: { path: string }) {
  const t = useTokens();
  const waiting = useWaiting();
  const item = (href: '/' | '/outbox', icon: string, label: string, count = 0) => {
    const on = path === href;
    return (
      <Link href={href} asChild>
        <TouchableRipple
          role="link"
          aria-current={on ? 'page' : undefined}
          style={{ flex: 1, minHeight: 48, justifyContent: 'center' }}
        >
          <View style={{ flexDirection: 'row', gap: 8, alignItems: 'center', justifyContent: 'center' }}>
            <Icon source={icon} size={22} color={on ? t.wine : t.pencil} />
            <Text variant={on ? 'labelMedium' : 'bodyMedium'} style={{ color: on ? t.wine : t.pencil }}>
              {label}
            </Text>
            {count ? <Badge style={{ backgroundColor: t.brass, color: t.leaf, borderRadius: corner }}>{count}</Badge> : null}
          </View>
        </TouchableRipple>
      </Link>
    );
  };
  return (
    <View
      role="navigation"
      style={{ flexDirection: 'row', gap: 4, padding: 8, borderTopWidth: 1, borderColor: t.hairline, backgroundColor: t.leaf }}
    >
      {item('/', 'bookshelf', 'Shelf')}
      <Link href="/capture" asChild>
        <Action main tall icon="camera" style={{ flex: 1.4 }}>
          Capture
        </Action>
      </Link>
      {item('/outbox', 'tray-arrow-up', 'Outbox', waiting)}
    </View>
  );
}

function Rail({ path, onKeys }: { path: string; onKeys: () => void }) {
  const t = useTokens();
  const waiting = useWaiting();
  const item = (href: '/' | '/capture' | '/outbox', icon: string, label: string, main = false) => {
    const on = href === '/' ? path === '/' || path.startsWith('/document') : path === href;
    const colour = main ? t.onWine : on ? t.wine : t.pencil;
    return (
      <Link href={href} asChild>
        <TouchableRipple
          role="link"
          aria-current={on ? 'page' : undefined}
          style={{
            width: 68,
            minHeight: 60,
            borderRadius: corner,
            justifyContent: 'center',
            backgroundColor: main ? t.wine : undefined,
          }}
        >
          <View style={{ alignItems: 'center', gap: 3 }}>
            <Icon source={icon} size={24} color={colour} />
            <Text variant="bodySmall" style={{ color: colour }}>
              {label}
              {href === '/outbox' && waiting ? ` ${waiting}` : ''}
            </Text>
          </View>
        </TouchableRipple>
      </Link>
    );
  };
  return (
    <View
      role="navigation"
      style={{
        width: 84,
        alignItems: 'center',
        gap: 10,
        paddingVertical: 18,
        borderRightWidth: 1,
        borderColor: t.hairline,
        backgroundColor: t.leaf,
      }}
    >
      <Text style={{ fontFamily: fonts.heading, fontSize: 26, color: t.wine, paddingBottom: 8 }}>L</Text>
      {item('/capture', 'camera', 'Capture', true)}
      {item('/', 'bookshelf', 'Shelf')}
      {item('/outbox', 'tray-arrow-up', 'Outbox')}
      <View style={{ flex: 1 }} />
      <TouchableRipple
        role="button"
        aria-label="Keys"
        onPress={onKeys}
        style={{ width: 44, height: 44, alignItems: 'center', justifyContent: 'center' }}
      >
        <Icon source="keyboard-outline" size={24} color={t.pencil} />
      </TouchableRipple>
    </View>
  );
}

/** Files that could not be brought in, and the word at the bottom of the screen with its undo. */
function Words() {
  const dispatch = useAppDispatch();
  const notice = useApp((s) => s.work.notice);
  const refused = useApp((s) => s.work.refused);
  return (
    <>
      {refused.length ? (
        <View style={{ position: 'absolute', left: 12, right: 12, bottom: 80, maxWidth: 560, zIndex: 5 }}>
          <Banner
            tone="failed"
            icon="image-broken-variant"
            title={refused.length === 1 ? 'One file was not taken' : `${refused.length} files were not taken`}
            detail={refused.map((r) => `${r.name}: ${r.reason}`).join('\n')}
          >
            <Action onPress={() => dispatch(refusedRead())}>Good</Action>
          </Banner>
        </View>
      ) : null}
      <Snackbar
        visible={notice !== null}
        duration={8000}
        onDismiss={() => dispatch(noticed(null))}
        wrapperStyle={{ bottom: 72 }}
        {...(notice?.undo && { action: { label: 'Undo', onPress: () => void dispatch(undone(notice.undo!)) } })}
      >
        {notice?.text ?? ''}
      </Snackbar>
    </>
  );
}
