import type { Letter } from '@/server/mails/letter'
import { type MailWords, NO_LINES } from './mail-words'

type Of<Kind extends Letter['kind']> = Extract<Letter, { readonly kind: Kind }>

const NOT_YOU = 'If it was not you who asked for it, do nothing: nobody comes in without this mail.'

/** The link one of the merchant's people sets their password by. */
export function setPasswordWords({ name, word, why }: Of<'set-password'>): MailWords {
  const path = `/sign-in/password?word=${encodeURIComponent(word)}`
  return why === 'invited'
    ? {
        subject: 'Your sign-in to Steppe',
        preview: 'Set a password, and you are in.',
        title: `Welcome, ${name}`,
        paragraphs: [
          'You were invited to work in Steppe. Set a password, and you are in. The link works once, for three days.',
        ],
        ...{ ...NO_LINES, action: { label: 'Set your password', path } },
      }
    : {
        subject: 'Set a new password for Steppe',
        preview: 'The link works once, within an hour.',
        title: 'Set a new password',
        paragraphs: [
          `${name}, somebody asked for a new password for you. The link works once, within an hour.`,
          NOT_YOU,
        ],
        ...{ ...NO_LINES, action: { label: 'Set a new password', path } },
      }
}

/** The link a buyer comes into the shop by. */
export function shopLinkWords({ word, leads }: Of<'shop-link'>, storeName: string): MailWords {
  const isPassword = leads === 'password'
  const path = `/shop/sign-in/${isPassword ? 'password' : 'link'}?word=${encodeURIComponent(word)}`
  const label = isPassword ? 'Set your password' : 'Sign in'
  return {
    subject: isPassword ? `Set your password for ${storeName}` : `Your link into ${storeName}`,
    preview: 'The link works once, within half an hour.',
    title: label,
    paragraphs: ['The link works once, within half an hour.', NOT_YOU],
    ...{ ...NO_LINES, action: { label, path } },
  }
}
