import Link from 'next/link';
import { buttonStyle } from '@/ui/button';
import { TopBar } from '@/ui/top-bar';

export default function NotFound() {
  return (
    <>
      <TopBar here="shelf" />
      <main className="mx-auto max-w-xl px-5 py-16">
        <h1 className="text-xl font-semibold">There is no such design</h1>
        <p className="mt-2 mb-5 text-soft">
          The address may be incomplete. Archived designs keep their address and open as before.
        </p>
        <Link href="/" className={buttonStyle('solid')}>
          Back to the shelf
        </Link>
      </main>
    </>
  );
}
