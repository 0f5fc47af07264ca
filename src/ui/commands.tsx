'use client';

import { Command } from 'cmdk';
import { Dialog } from 'radix-ui';
import { createContext, useContext, useEffect, useMemo, useState, type ReactNode } from 'react';
import { useHotkeys } from 'react-hotkeys-hook';

/** One action of a screen: its words, its key if it has one, and what it does. */
export type ScreenCommand = { name: string; keys?: string; run: () => void };

type Centre = {
  offer: (commands: readonly ScreenCommand[]) => () => void;
  openPalette: () => void;
};

const CentreContext = createContext<Centre | null>(null);

/** How a key is written on screen. */
function keyWords(keys: string): string {
  return keys
    .split(',')[0]
    .split('+')
    .map((key) => ({ mod: 'Ctrl', shift: 'Shift', pageup: 'Page up', pagedown: 'Page down' })[key] ?? key.toUpperCase())
    .join(' ');
}

/** Holds the commands of whatever screen is shown; binds their keys; opens the palette and the sheet of keys. */
export function CommandCentre({ children }: { children: ReactNode }) {
  const [offered, setOffered] = useState<readonly ScreenCommand[]>([]);
  const [shown, setShown] = useState<'palette' | 'keys' | null>(null);
  const centre = useMemo<Centre>(
    () => ({
      offer: (commands) => {
        setOffered(commands);
        return () => setOffered((now) => (now === commands ? [] : now));
      },
      openPalette: () => setShown('palette'),
    }),
    [],
  );
  const everywhere: ScreenCommand[] = [
    { name: 'Find a command', keys: 'mod+k', run: () => setShown('palette') },
    { name: 'Show all keys', keys: 'shift+?', run: () => setShown('keys') },
  ];
  return (
    <CentreContext.Provider value={centre}>
      {children}
      {[...everywhere, ...offered].map((command) =>
        command.keys ? <BoundKey key={command.name} command={command} /> : null,
      )}
      <Dialog.Root open={shown !== null} onOpenChange={(open) => !open && setShown(null)}>
        <Dialog.Portal>
          <Dialog.Overlay className="fixed inset-0 z-40 bg-scrim" />
          <Dialog.Content
            aria-describedby={undefined}
            className="fixed top-[14vh] left-1/2 z-50 w-[min(30rem,calc(100vw-2rem))] -translate-x-1/2 rounded-md border border-rule bg-sheet"
          >
            <Dialog.Title className={shown === 'keys' ? 'px-4 pt-3 text-base font-semibold' : 'sr-only'}>
              {shown === 'keys' ? 'Keys' : 'Commands'}
            </Dialog.Title>
            {shown === 'keys' ? (
              <KeySheet commands={[...everywhere, ...offered]} />
            ) : (
              <Command label="Commands" loop>
                <Command.Input
                  placeholder="What do you want to do?"
                  className="w-full border-b border-rule bg-transparent px-4 py-3 outline-none placeholder:text-soft"
                />
                <Command.List className="max-h-[46vh] overflow-y-auto p-1.5">
                  <Command.Empty className="px-3 py-4 text-soft">No command of that name here.</Command.Empty>
                  {[...offered, everywhere[1]].map((command) => (
                    <Command.Item
                      key={command.name}
                      value={command.name}
                      onSelect={() => {
                        setShown(null);
                        // The palette gives focus back first, so that a command can move it.
                        setTimeout(command.run, 0);
                      }}
                      className="flex items-center justify-between rounded px-3 py-2 data-[selected=true]:bg-tint"
                    >
                      {command.name}
                      {command.keys ? <KeyCap keys={command.keys} /> : null}
                    </Command.Item>
                  ))}
                </Command.List>
              </Command>
            )}
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </CentreContext.Provider>
  );
}

function BoundKey({ command }: { command: ScreenCommand }) {
  const withControl = command.keys!.includes('mod');
  useHotkeys(
    command.keys!,
    (event) => {
      event.preventDefault();
      command.run();
    },
    // One-key changes must not fire while somebody types into a field; undo and the palette may.
    // Nor behind a dialog that waits for an answer.
    {
      enableOnFormTags: withControl,
      useKey: true,
      ignoreEventWhen: () => !withControl && document.querySelector('[role=dialog], [role=alertdialog]') !== null,
    },
    [command],
  );
  return null;
}

export function KeyCap({ keys }: { keys: string }) {
  return <kbd className="figures rounded border border-rule px-1.5 py-0.5 text-[11px] text-soft">{keyWords(keys)}</kbd>;
}

function KeySheet({ commands }: { commands: readonly ScreenCommand[] }) {
  return (
    <dl className="grid grid-cols-[1fr_auto] gap-x-6 gap-y-1.5 px-4 pt-2 pb-4">
      {commands
        .filter((command) => command.keys)
        .map((command) => (
          <div key={command.name} className="contents">
            <dt>{command.name}</dt>
            <dd className="text-right">
              <KeyCap keys={command.keys!} />
            </dd>
          </div>
        ))}
    </dl>
  );
}

/** Offers a screen's commands while it is shown; the list must keep its identity between renders that change nothing. */
export function useCommands(commands: readonly ScreenCommand[]): void {
  const centre = useContext(CentreContext);
  useEffect(() => centre?.offer(commands), [centre, commands]);
}

export function usePalette(): () => void {
  return useContext(CentreContext)?.openPalette ?? (() => undefined);
}
