import { chromium } from '@playwright/test';
import { CHROMIUM } from './chromium';
const [,, path, out, ...acts] = process.argv;
const b = await chromium.launch(CHROMIUM); const p = await b.newPage({ viewport: { width: Number(process.env.W??1280), height: Number(process.env.H??800) } });
p.on('pageerror', e => console.log('PAGEERROR', e.message)); p.on('console', m => m.type()==='error' && console.log('CONSOLE', m.text()));
await p.goto('http://127.0.0.1:4999' + path); await p.waitForTimeout(2500);
for (const act of acts) { try { await eval(`(async()=>{${act}})()`); } catch (e) { console.log('ACT', act, (e as Error).message.split('\n')[0]); } await p.waitForTimeout(700); }
await p.screenshot({ path: out }); await b.close();
