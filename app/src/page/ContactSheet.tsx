import { useState } from 'react';
import { ScrollView, View } from 'react-native';
import { Text } from 'react-native-paper';
import { safeFileName, type Page } from '@libretto/model';
import { contactFields, type ContactField, type ContactPart } from '@libretto/text/contact';
import { Action } from '../ui/Action';
import { Field } from '../ui/Field';
import { Heading } from '../ui/Heading';
import { Over } from '../ui/Over';
import { Snippet } from '../ui/Snippet';
import { useTokens } from '../ui/theme';
import { useSay } from '../ui/words/words';
import { saveBlob } from '../work/saveBlob';
import { priority } from '../work/pool';
import { wordsPool } from '../work/pools';
import { usePageImage } from '../work/usePageImage';

export interface ContactSheetProps {
  page: Page;
  parts: readonly ContactPart[];
  onClose: () => void;
}

interface Typed {
  field: ContactField;
  value: string;
  part: ContactPart | null;
}

/** What a card says of somebody, each beside the spot that it was read from: put right, then saved as a contact. */
export function ContactSheet({ page, parts, onClose }: ContactSheetProps) {
  const t = useTokens();
  const say = useSay();
  const { url, image } = usePageImage(page, 'screen');
  const [typed, setTyped] = useState<Typed[]>(() =>
    contactFields.flatMap((field): Typed[] => {
      const read = parts.filter((p) => p.field === field);
      return read.length ? read.map((part) => ({ field, value: part.value, part })) : [{ field, value: '', part: null }];
    }),
  );
  const filled = typed.filter(({ value }) => value.trim());
  const { widthMm = 85, heightMm = 55 } = page.made ?? {};
  const save = async () => {
    const values: Partial<Record<ContactField, string[]>> = {};
    for (const { field, value } of filled) (values[field] ??= []).push(value.trim());
    const blob = await wordsPool.run((api) => api.vcard([values]), priority.export);
    const called = values.name?.[0] ?? values.organisation?.[0] ?? say('take.contact');
    saveBlob(blob, safeFileName(called, 'vcf'));
    onClose();
  };
  return (
    <Over low label={say('take.contactOut')} maxWidth={560} onClose={onClose}>
      <View style={{ padding: 16, gap: 12, maxHeight: '100%', minHeight: 0 }}>
        <Heading level={2} variant="titleLarge">
          {say('take.contact')}
        </Heading>
        <ScrollView style={{ flexShrink: 1 }} contentContainerStyle={{ gap: 10 }}>
          {typed.map(({ field, value, part }, i) => (
            <View key={i} style={{ gap: 4 }}>
              <Text variant="bodySmall" style={{ color: t.pencil }}>
                {say(`take.field.${field}`)}
              </Text>
              {url && image && part ? (
                <Snippet
                  url={url}
                  ratio={image.width / image.height}
                  box={{
                    x: (part.box.x / widthMm) * 10_000,
                    y: (part.box.y / heightMm) * 10_000,
                    width: (part.box.width / widthMm) * 10_000,
                    height: (part.box.height / heightMm) * 10_000,
                  }}
                  height={22}
                  maxWidth={420}
                />
              ) : null}
              <Field
                label={say(`take.field.${field}`)}
                value={value}
                onChangeText={(next) => setTyped(typed.map((it, k) => (k === i ? { ...it, value: next } : it)))}
                maxLength={300}
              />
            </View>
          ))}
        </ScrollView>
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
          <Action main icon="card-account-details-outline" disabled={!filled.length} onPress={() => void save()}>
            {say('take.saveContact')}
          </Action>
          <Action onPress={onClose}>{say('common.cancel')}</Action>
        </View>
      </View>
    </Over>
  );
}
