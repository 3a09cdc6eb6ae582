import { Link, Slot, useGlobalSearchParams, usePathname, type Href } from 'expo-router';
import { useState } from 'react';
import { useWindowDimensions, View } from 'react-native';
import { Badge, Text, TouchableRipple } from 'react-native-paper';
import { Shelf } from '../documents/Shelf';
import { ProofSheet } from '../documents/lazy';
import { settingsId } from '../store/library';
import { useApp } from '../store/store';
import { Action } from '../ui/Action';
import { Spinner } from '../ui/Spinner';
import { Sign } from '../ui/Sign';
import { useTokens } from '../ui/theme';
import { corner, fonts } from '../ui/tokens';
import { useKeys, useLetterKeys } from '../ui/useKeys';
import { useWide } from '../ui/useWide';
import { useMoreWords, useSay } from '../ui/words/words';
import { KeysDialog } from './lazy';
import { Notices } from './Notices';

/** What surrounds every screen: the bar or rail, the other panes at wide size, and words that need saying. */
export function Frame() {
  const t = useTokens();
  const wide = useWide();
  const { width } = useWindowDimensions();
  const path = usePathname();
  const { id, pageId, from } = useGlobalSearchParams<{ id?: string; pageId?: string; from?: string }>();
  const [keys, setKeys] = useState(false);
  const say = useSay();
  const worded = useMoreWords();
  useLetterKeys(useApp((s) => s.library.settings[settingsId]!.letterKeys));
  useKeys({ '?': () => setKeys(true) });
  const inDocument = path.startsWith('/document/') && id;
  const inPage = inDocument && path.includes('/page/');
  const pane = { borderRightWidth: 1, borderColor: t.hairline } as const;
  return (
    <View style={{ flex: 1, flexDirection: wide ? 'row' : 'column', backgroundColor: t.paper, height: '100%' }}>
      {wide ? <Rail path={path} onKeys={() => setKeys(true)} /> : null}
      {wide && inDocument && !inPage ? (
        <View role="complementary" style={{ width: width < 1024 ? 340 : 352, ...pane }}>
          <ShelfBeside selected={id} />
        </View>
      ) : null}
      {wide && inPage ? (
        // The shelf folds away, and the pages stand in one column: the page has the room.
        <View role="complementary" style={{ width: 216, ...pane }}>
          <ProofSheet id={id} {...(pageId && { selected: pageId })} narrow />
        </View>
      ) : null}
      <View
        role="main"
        style={{
          flex: 1,
          minWidth: 0,
          minHeight: 0,
          maxWidth: wide && (path === '/' || path === '/bin') ? 620 : undefined,
          ...(wide && (path === '/' || path === '/bin') ? pane : {}),
        }}
      >
        {path === '/' || worded ? (
          <Slot />
        ) : (
          <Spinner label={say('start.opening')} style={{ flex: 1, justifyContent: 'center' }} />
        )}
      </View>
      {!wide && !inDocument && (path !== '/capture' || from === 'files') ? <BottomBar path={path} /> : null}
      <Notices />
      {keys ? <KeysDialog onClose={() => setKeys(false)} /> : null}
    </View>
  );
}

/** The shelf beside a document, at the folder that the document lies in. */
function ShelfBeside({ selected }: { selected: string }) {
  const filed = useApp((s) => s.library.summary[selected]?.folder ?? null);
  const [looked, setLooked] = useState<{ selected: string; folder: string | null } | null>(null);
  const folder = looked?.selected === selected ? looked.folder : filed;
  return <Shelf selected={selected} beside folder={folder} onFolder={(next) => setLooked({ selected, folder: next })} />;
}

/** Deliveries that are open or have failed and were not cancelled. */
function useWaiting(): number {
  return useApp((s) => {
    let count = 0;
    for (const id in s.library.delivery) {
      const d = s.library.delivery[id]!;
      if (d.state !== 'arrived' && d.reason?.code !== 'cancelled') count++;
    }
    return count;
  });
}

interface NavLinkProps {
  href: Href;
  icon: string;
  label: string;
  on: boolean;
  count?: number;
  upright?: boolean;
  main?: boolean;
}

/** A link of the bar or the rail; one control, named once. */
function NavLink({ href, icon, label, on, count = 0, upright = false, main = false }: NavLinkProps) {
  const t = useTokens();
  const say = useSay();
  const colour = main ? t.onWine : on ? t.wine : t.pencil;
  const name = count ? say('nav.outboxCount', { count }) : label;
  return (
    <Link href={href} asChild>
      <TouchableRipple
        role="link"
        aria-label={name}
        aria-current={on ? 'page' : undefined}
        style={
          upright
            ? {
                width: 68,
                minHeight: 60,
                borderRadius: corner,
                justifyContent: 'center',
                backgroundColor: main ? t.wine : undefined,
              }
            : { flex: 1, minHeight: 48, justifyContent: 'center' }
        }
      >
        <View
          style={
            upright
              ? { alignItems: 'center', gap: 3 }
              : { flexDirection: 'row', gap: 8, alignItems: 'center', justifyContent: 'center' }
          }
        >
          <Sign source={icon} size={upright ? 24 : 22} color={colour} />
          <Text variant={upright ? 'bodySmall' : on ? 'labelMedium' : 'bodyMedium'} style={{ color: colour }}>
            {upright ? name : label}
          </Text>
          {count && !upright ? (
            <Badge style={{ backgroundColor: t.brass, color: t.leaf, borderRadius: corner }}>{count}</Badge>
          ) : null}
        </View>
      </TouchableRipple>
    </Link>
  );
}

function BottomBar({ path }: { path: string }) {
  const t = useTokens();
  const say = useSay();
  const waiting = useWaiting();
  return (
    <View
      role="navigation"
      aria-label={say('nav.label')}
      style={{ flexDirection: 'row', gap: 4, padding: 8, borderTopWidth: 1, borderColor: t.hairline, backgroundColor: t.leaf }}
    >
      <NavLink href="/" icon="bookshelf" label={say('nav.shelf')} on={path === '/'} />
      <Link href="/capture" asChild>
        <Action main tall icon="camera" role="link" style={{ flex: 1.4 }}>
          {say('nav.capture')}
        </Action>
      </Link>
      <NavLink href="/outbox" icon="tray-arrow-up" label={say('nav.outbox')} on={path === '/outbox'} count={waiting} />
    </View>
  );
}

function Rail({ path, onKeys }: { path: string; onKeys: () => void }) {
  const t = useTokens();
  const say = useSay();
  const waiting = useWaiting();
  return (
    <View
      role="navigation"
      aria-label={say('nav.label')}
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
      <Text aria-hidden style={{ fontFamily: fonts.heading, fontSize: 26, color: t.wine, paddingBottom: 8 }}>
        {say('app.initial')}
      </Text>
      <NavLink upright main href="/capture" icon="camera" label={say('nav.capture')} on={path === '/capture'} />
      <NavLink
        upright
        href="/"
        icon="bookshelf"
        label={say('nav.shelf')}
        on={path === '/' || path === '/bin' || path.startsWith('/document')}
      />
      <NavLink upright href="/outbox" icon="tray-arrow-up" label={say('nav.outbox')} on={path === '/outbox'} count={waiting} />
      <View style={{ flex: 1 }} />
      <NavLink
        upright
        href="/settings"
        icon="cog-outline"
        label={say('nav.settings')}
        on={path === '/settings' || path === '/phone'}
      />
      <TouchableRipple
        role="button"
        aria-label={say('nav.keys')}
        onPress={onKeys}
        style={{ width: 44, height: 44, alignItems: 'center', justifyContent: 'center' }}
      >
        <Sign source="keyboard-outline" size={24} color={t.pencil} />
      </TouchableRipple>
    </View>
  );
}
