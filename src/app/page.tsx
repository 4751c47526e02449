import { redirect } from 'next/navigation'

/** The board is home. */
export default function Home(): never {
  redirect('/board')
}
