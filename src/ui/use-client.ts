'use client';

import { useEffect, useState } from 'react';

/** Something that runs beside the page, for as long as a component is on screen. */
export function useClient<C extends { end: () => void }>(start: () => C): C {
  const [client] = useState(start);
  useEffect(() => () => client.end(), [client]);
  return client;
}
