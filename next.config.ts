import { createHash } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import type { NextConfig } from 'next';

/** A digest of the core: figures that another has computed are to be computed anew. */
function coreVersion(): string {
  const core = path.resolve(process.cwd(), 'src/core');
  const hash = createHash('sha256');
  for (const name of (readdirSync(core, { recursive: true }) as string[]).sort())
    if (/(?<!\.test)\.ts$/.test(name)) hash.update(name).update(readFileSync(path.join(core, name)));
  return hash.digest('hex').slice(0, 16);
}

const config: NextConfig = {
  poweredByHeader: false,
  env: { CORE_VERSION: coreVersion() },
  reactStrictMode: true,
  serverExternalPackages: ['pg'],
  // What a route takes at most it must be given whole: the framework cuts what is longer, and says so to nobody.
  experimental: { proxyClientMaxBodySize: '32mb' },
  // "npm run types" checks them, tests and all; a start need not do it again.
  typescript: { ignoreBuildErrors: true },
};

export default config;
