import type { ReactNode } from 'react';
import { View } from 'react-native';
import { Text } from 'react-native-paper';
import { Sign } from './Sign';
import { useTokens } from './theme';

export interface BannerProps {
  tone: 'attention' | 'failed';
  title: string;
  detail?: string;
  icon?: string;
  /** What settles it, at the end. */
  children?: ReactNode;
}

/** A line that wants to be seen: brass for attention, rust for what failed. */
export function Banner({ tone, title, detail, icon, children }: BannerProps) {
  const t = useTokens();
  const colour = tone === 'attention' ? t.brass : t.rust;
  return (
    <View
      role="status"
      style={{
        flexDirection: 'row',
        alignItems: 'center',
        gap: 12,
        padding: 10,
        paddingLeft: 12,
        backgroundColor: tone === 'attention' ? t.brassWash : t.rustWash,
        borderLeftWidth: 4,
        borderLeftColor: colour,
      }}
    >
      {icon ? <Sign source={icon} size={24} color={colour} /> : null}
      <View style={{ flex: 1, gap: 2 }}>
        <Text variant="labelLarge">{title}</Text>
        {detail ? (
          <Text variant="bodySmall" style={{ color: t.pencil }}>
            {detail}
          </Text>
        ) : null}
      </View>
      {children}
    </View>
  );
}
