import { chromium } from '@playwright/test'

/** Debian's Chromium with WebGL2 in software and no background traffic. */
export const LAUNCH = {
  executablePath: '/usr/bin/chromium',
  args: [
    '--headless',
    '--no-sandbox',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--use-angle=swiftshader',
    '--enable-unsafe-swiftshader',
    // The page is put together without the software GPU, which then has only the Stage to draw: tests take a third less time.
    '--disable-gpu-compositing',
    '--in-process-gpu',
  ],
}

/** `more` arguments come after the usual ones. */
export const launch = (more: string[] = []) =>
  chromium.launch({ ...LAUNCH, args: [...LAUNCH.args, ...more] })
