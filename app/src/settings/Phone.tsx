import { useCallback, useEffect, useState } from 'react';
import { ScrollView, View } from 'react-native';
import { Text } from 'react-native-paper';
import { noticed } from '../store/session';
import { useAppDispatch } from '../store/store';
import { Action } from '../ui/Action';
import { Heading } from '../ui/Heading';
import { Spinner } from '../ui/Spinner';
import { useTokens } from '../ui/theme';
import { corner } from '../ui/tokens';
import { useTitle } from '../ui/useTitle';
import { whenInWords } from '../ui/words/format';
import { useSay } from '../ui/words/words';
import { askNetwork, removeDevice, type Device, type Network } from './network';

type Shown = { state: 'asking' } | { state: 'signed-out' } | { state: 'unreachable' } | { state: 'here'; network: Network };

/** How a phone is paired with this Libretto, and which devices are. */
export function Phone() {
  const t = useTokens();
  const say = useSay();
  useTitle(say('phone.title'));
  const [shown, setShown] = useState<Shown>({ state: 'asking' });
  const ask = useCallback(
    () =>
      askNetwork().then(
        (network) => setShown({ state: 'here', network }),
        (error: Error) => setShown({ state: error.message === '401' ? 'signed-out' : 'unreachable' }),
      ),
    [],
  );
  useEffect(() => void ask(), [ask]);
  return (
    <ScrollView contentContainerStyle={{ padding: 16, gap: 14, maxWidth: 620 }}>
      <Heading variant="headlineLarge">{say('phone.title')}</Heading>
      {shown.state === 'asking' ? <Spinner label={say('settings.reading')} /> : null}
      {shown.state === 'unreachable' ? (
        <>
          <Text role="alert">{say('phone.unreachable')}</Text>
          <Action onPress={() => void ask()} style={{ alignSelf: 'flex-start' }}>
            {say('common.retry')}
          </Action>
        </>
      ) : null}
      {shown.state === 'signed-out' ? (
        <>
          <Text role="alert">{say('phone.signedOut')}</Text>
          <a href="/sign-in" style={{ color: t.wine, fontSize: 16, padding: '10px 0' }}>
            {say('phone.signIn')}
          </a>
        </>
      ) : null}
      {shown.state === 'here' && !shown.network.open ? (
        <>
          <Text>{say('phone.closed')}</Text>
          <Text style={{ color: t.pencil }}>{say('phone.closedHow')}</Text>
        </>
      ) : null}
      {shown.state === 'here' && shown.network.open ? <Open network={shown.network} ask={ask} /> : null}
    </ScrollView>
  );
}

function Open({ network, ask }: { network: Extract<Network, { open: true }>; ask: () => Promise<void> }) {
  const t = useTokens();
  const say = useSay();
  return (
    <>
      <Heading level={2} variant="titleLarge">
        {say('phone.scan')}
      </Heading>
      <img
        src={`data:image/svg+xml,${encodeURIComponent(network.qr)}`}
        alt={say('phone.code', { address: network.address })}
        width={260}
        height={260}
        style={{ border: `1px solid ${t.hairline}`, borderRadius: corner, background: '#fff' }}
      />
      <Text>{say('phone.scanAbout')}</Text>
      <Action onPress={() => void ask()} style={{ alignSelf: 'flex-start' }}>
        {say('phone.newCode')}
      </Action>
      <Text style={{ color: t.pencil }}>{say('phone.type', { address: network.address })}</Text>
      <Heading level={2} variant="titleLarge" style={{ paddingTop: 10 }}>
        {say('phone.devices')}
      </Heading>
      {network.devices.length ? null : <Text style={{ color: t.pencil }}>{say('phone.none')}</Text>}
      <View role="list">
        {network.devices.map((device) => (
          <DeviceRow key={device.id} device={device} ask={ask} />
        ))}
      </View>
      <Heading level={2} variant="titleLarge" style={{ paddingTop: 10 }}>
        {say('phone.trust')}
      </Heading>
      <Text>{say('phone.trustAbout')}</Text>
      {network.ownAuthority ? (
        <a href={`${network.address}/authority.crt`} style={{ color: t.wine, fontSize: 16, padding: '10px 0' }}>
          {say('phone.fetch')}
        </a>
      ) : null}
      <Text>{say('phone.iphone')}</Text>
      <Text>{say('phone.android')}</Text>
      <Text>{say('phone.fingerprint')}</Text>
      <Text selectable style={{ fontFamily: 'ui-monospace, monospace', color: t.pencil }}>
        {network.fingerprint}
      </Text>
    </>
  );
}

function DeviceRow({ device, ask }: { device: Device; ask: () => Promise<void> }) {
  const t = useTokens();
  const say = useSay();
  const dispatch = useAppDispatch();
  const now = new Date();
  const remove = () =>
    removeDevice(device.id).then(
      () => {
        dispatch(noticed({ code: 'notice.deviceRemoved', values: { name: device.name } }));
        return ask();
      },
      () => void dispatch(noticed({ code: 'notice.deviceStays' })),
    );
  return (
    <View
      role="listitem"
      style={{
        flexDirection: 'row',
        alignItems: 'center',
        gap: 12,
        minHeight: 64,
        borderBottomWidth: 1,
        borderColor: t.hairline,
      }}
    >
      <View style={{ flex: 1 }}>
        <Text variant="labelLarge">{device.own ? say('phone.own', { name: device.name }) : device.name}</Text>
        <Text variant="bodySmall" style={{ color: t.pencil }}>
          {say('phone.since', { date: whenInWords(say, device.pairedAt, now), seen: whenInWords(say, device.seenAt, now) })}
        </Text>
      </View>
      <Action accessibilityLabel={say('phone.removeNamed', { name: device.name })} onPress={() => void remove()}>
        {say('phone.remove')}
      </Action>
    </View>
  );
}
