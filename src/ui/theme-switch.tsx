'use client';

import Moon from 'lucide-react/icons/moon';
import Sun from 'lucide-react/icons/sun';
import { useTheme } from 'next-themes';
import { buttonStyle } from './button';

/** Light for the day, dark for the bench at night. */
export function ThemeSwitch() {
  const { resolvedTheme, setTheme } = useTheme();
  return (
    <button
      type="button"
      className={buttonStyle('quiet')}
      aria-label="Switch between light and dark"
      onClick={() => setTheme(resolvedTheme === 'dark' ? 'light' : 'dark')}
    >
      <Sun className="hidden size-4 dark:block" aria-hidden="true" />
      <Moon className="size-4 dark:hidden" aria-hidden="true" />
    </button>
  );
}
