import { chromium } from '@playwright/test';
import { LAUNCH } from './server';
const b = await chromium.launch(LAUNCH);
const page = await b.newPage({ viewport: { width: 1280, height: 800 } });
page.on('console', (m) => { if (m.type()==='error') console.log('console', m.text().slice(0,300)); });
page.on('pageerror', (e) => console.log('pageerror', String(e).slice(0,300)));
const shot = (n: string) => page.screenshot({ path: `/tmp/dbg/${n}.png` });
const o = 'http://127.0.0.1:4700';
await page.goto(o + '/sources'); await page.getByRole('table').waitFor(); await shot('s1'); await page.goto(o+'/sources'); 


await page.goto(o + '/sources');
await page.getByRole('button', { name: 'Add a source' }).click();
await page.getByRole('textbox', { name: 'Name' }).fill('Frühling');
await page.locator('input[type=file]').setInputFiles('/tmp/dbg/cat.csv');
await page.waitForTimeout(300); await shot('s4');
await page.getByRole('button', { name: 'Look at it' }).click();
await page.getByText('Ten rows').waitFor(); await page.waitForTimeout(300); await shot('s5');
await page.getByRole('combobox', { name: 'Key' }).click(); await page.getByRole('option', { name: 'Bestellkürzel' }).click();
await page.waitForTimeout(300); await shot('s6');
await page.getByRole('button', { name: 'Check every row' }).click();
await page.getByText('This is what the file does').waitFor(); await page.waitForTimeout(300); await shot('s7');
await b.close();
