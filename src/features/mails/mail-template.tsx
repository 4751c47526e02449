import {
  Body,
  Button,
  Column,
  Container,
  Head,
  Heading,
  Hr,
  Html,
  Preview,
  Row,
  Section,
  Text,
} from 'react-email'
import type { MailWords } from './mail-words'

const INK = '#26231b'
const SOFT = '#6b6250'
const LINE = '#e2d9c3'
const GREEN = '#4d6b29'
const FONT = 'Helvetica, Arial, sans-serif'
const TEXT = { fontFamily: FONT, fontSize: '15px', lineHeight: '23px', color: INK, margin: '0 0 12px' }
const CELL = { fontFamily: FONT, fontSize: '14px', lineHeight: '20px', color: INK, margin: 0 }
const RIGHT = { ...CELL, textAlign: 'right' as const, whiteSpace: 'nowrap' as const }

interface MailTemplateProps {
  readonly words: MailWords
  readonly storeName: string
  readonly contact: string
  /** Where the shop is, without a stroke at the end. */
  readonly address: string
}

/** A mail of the shop, as mail programs lay it out: tables and styles of its own, nothing loaded from elsewhere. */
export function MailTemplate({ words, storeName, contact, address }: MailTemplateProps) {
  const { preview, title, paragraphs, quoted, lines, sums, action } = words
  return (
    <Html lang="en">
      <Head />
      <Preview>{preview}</Preview>
      <Body style={{ backgroundColor: '#f7f3e8', margin: 0, padding: '24px 0' }}>
        <Container style={{ backgroundColor: '#ffffff', maxWidth: '580px', padding: '28px 32px' }}>
          <Text style={{ ...TEXT, fontWeight: 700, color: GREEN, margin: '0 0 20px' }}>{storeName}</Text>
          <Heading
            as="h1"
            style={{ fontFamily: FONT, fontSize: '22px', lineHeight: '28px', color: INK, margin: '0 0 12px' }}
          >
            {title}
          </Heading>
          {paragraphs.map((text, at) => (
            <Text key={at} style={TEXT}>
              {text}
            </Text>
          ))}
          {quoted !== '' && (
            <Text
              style={{
                ...TEXT,
                borderLeft: `3px solid ${GREEN}`,
                paddingLeft: '12px',
                whiteSpace: 'pre-line',
              }}
            >
              {quoted}
            </Text>
          )}
          {lines.length > 0 && (
            <Section style={{ margin: '8px 0' }}>
              {lines.map(({ name, quantity, price, total }, at) => (
                <Row key={at} style={{ borderTop: `1px solid ${LINE}` }}>
                  <Column style={{ padding: '6px 8px 6px 0' }}>
                    <Text style={CELL}>{name}</Text>
                  </Column>
                  <Column style={{ width: '150px', padding: '6px 8px' }}>
                    <Text style={{ ...RIGHT, color: SOFT }}>
                      {price === '' ? quantity : `${quantity} at ${price}`}
                    </Text>
                  </Column>
                  <Column style={{ width: '90px', padding: '6px 0' }}>
                    <Text style={RIGHT}>{total}</Text>
                  </Column>
                </Row>
              ))}
            </Section>
          )}
          {sums.length > 0 && (
            <Section style={{ margin: '0 0 16px' }}>
              {sums.map(([label, amount], at) => (
                <Row key={label} style={{ borderTop: `1px solid ${at === sums.length - 1 ? INK : LINE}` }}>
                  <Column style={{ padding: '5px 0' }}>
                    <Text style={at === sums.length - 1 ? { ...CELL, fontWeight: 700 } : CELL}>{label}</Text>
                  </Column>
                  <Column style={{ padding: '5px 0' }}>
                    <Text style={at === sums.length - 1 ? { ...RIGHT, fontWeight: 700 } : RIGHT}>
                      {amount}
                    </Text>
                  </Column>
                </Row>
              ))}
            </Section>
          )}
          {action && (
            <Button
              href={`${address}${action.path}`}
              style={{
                ...{ backgroundColor: GREEN, color: '#ffffff', fontFamily: FONT, fontSize: '15px' },
                ...{ fontWeight: 700, padding: '12px 20px', borderRadius: '4px', textDecoration: 'none' },
              }}
            >
              {action.label}
            </Button>
          )}
          <Hr style={{ borderColor: LINE, margin: '24px 0 12px' }} />
          <Text
            style={{ ...TEXT, fontSize: '13px', lineHeight: '19px', color: SOFT, whiteSpace: 'pre-line' }}
          >
            {[storeName, contact].filter(Boolean).join('\n')}
          </Text>
        </Container>
      </Body>
    </Html>
  )
}
