/** The looks a button can have: solid for the one main action, plain for the rest, quiet inside rows. */
export type ButtonLook = 'solid' | 'plain' | 'quiet';

const COMMON =
  'inline-flex items-center justify-center gap-1.5 rounded font-medium whitespace-nowrap disabled:opacity-50 disabled:cursor-not-allowed';

const LOOKS: Record<ButtonLook, string> = {
  solid: 'bg-copper text-on-copper px-3.5 py-1.5 hover:brightness-110',
  plain: 'border border-rule bg-sheet px-3 py-1.5 hover:border-line',
  quiet: 'px-2 py-1 text-soft hover:bg-tint hover:text-ink',
};

export function buttonStyle(look: ButtonLook): string {
  return `${COMMON} ${LOOKS[look]}`;
}
