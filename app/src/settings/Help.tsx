import { useEffect, useRef } from 'react';
import { Pressable, ScrollView, View } from 'react-native';
import { Text } from 'react-native-paper';
import { Heading } from '../ui/Heading';
import { Stitches } from '../ui/Stitches';
import { useTokens } from '../ui/theme';
import { touch } from '../ui/tokens';
import { useTitle } from '../ui/useTitle';
import { sayList, useSay } from '../ui/words/words';
import { HelpDrawing } from './HelpDrawing';
import { KeyList } from './KeyList';
import { helpSections, type HelpSection } from './helpSections';

/** The whole job in short chapters; it opens at the one that was asked for. */
export function Help({ at }: { at: string | null }) {
  const t = useTokens();
  const say = useSay();
  useTitle(say('help.title'));
  return (
    <ScrollView contentContainerStyle={{ padding: 16, gap: 18, maxWidth: 680 }}>
      <View style={{ gap: 6 }}>
        <Heading variant="headlineLarge">{say('help.title')}</Heading>
        <Text style={{ color: t.pencil }}>{say('help.about')}</Text>
      </View>
      <View role="navigation" aria-label={say('help.contents')} style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 16 }}>
        {helpSections.map((section) => (
          <Pressable
            key={section}
            role="link"
            onPress={() => show(document.getElementById(section))}
            style={{ minHeight: touch, justifyContent: 'center' }}
          >
            <Text style={{ color: t.wine }}>{say(`help.${section}.title`)}</Text>
          </Pressable>
        ))}
      </View>
      {helpSections.map((section) => (
        <Chapter key={section} section={section} asked={section === at} />
      ))}
      <Stitches />
      <Heading level={2} variant="titleLarge">
        {say('keys.title')}
      </Heading>
      <View style={{ gap: 6 }}>
        <KeyList />
      </View>
    </ScrollView>
  );
}

function show(chapter: HTMLElement | null): void {
  chapter?.scrollIntoView({ block: 'start' });
  chapter?.focus({ preventScroll: true });
}

function Chapter({ section, asked }: { section: HelpSection; asked: boolean }) {
  const say = useSay();
  const box = useRef<HTMLElement>(null);
  useEffect(() => {
    if (!asked) return;
    show(box.current);
  }, [asked]);
  return (
    <section ref={box} tabIndex={-1} id={section} style={{ display: 'flex', flexDirection: 'column', gap: 8, outlineOffset: 8 }}>
      <Heading level={2} variant="titleLarge">
        {say(`help.${section}.title`)}
      </Heading>
      <HelpDrawing section={section} />
      {Object.values(sayList(`help.${section}.tips`) as unknown as Record<string, string>).map((tip) => (
        <Text key={tip}>{tip}</Text>
      ))}
    </section>
  );
}
