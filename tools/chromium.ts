import type { LaunchOptions } from '@playwright/test';

/** How Debian's Chromium is started for tests and pictures: no network of its own, WebGL in software. */
export const CHROMIUM: LaunchOptions = {
  executablePath: process.env.MERRY_SHADOW_CHROMIUM ?? '/usr/bin/chromium',
  headless: true,
  args: [
    '--no-sandbox',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--use-gl=angle',
    '--use-angle=swiftshader',
    '--enable-unsafe-swiftshader',
  ],
};
