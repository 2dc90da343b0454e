// Drives a page in headless Chromium and prints what comes of it, a line each:
//   node page.mjs PAGE FOLDER
// In the folder `asked.json` says what is to be set: brightness and colour by a source's name, and the terms that
// are taken out. What the canvas shows then goes there, four bytes a pixel.
import { readFileSync, writeFileSync } from 'node:fs';
import { pathToFileURL } from 'node:url';
import { createRequire } from 'node:module';
import { chromium } from 'playwright-core';

const axe = createRequire(import.meta.url).resolve('axe-core/axe.min.js');
const [file, folder] = process.argv.slice(2);
const address = pathToFileURL(file).href;
const asked = JSON.parse(readFileSync(folder + '/asked.json', 'utf8'));
const browser = await chromium.launch({
  executablePath: '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync', '--use-gl=angle', '--use-angle=swiftshader', '--enable-unsafe-swiftshader'],
});
const say = text => console.log(text);

// A page that tells of every error and of every request but its own.
async function open(options, before) {
  const context = await browser.newContext(options);
  const page = await context.newPage();
  const wrong = [];
  page.on('console', message => { if (message.type() === 'error') wrong.push(message.text()); });
  page.on('pageerror', error => wrong.push(String(error)));
  page.on('request', request => {
    if (request.url() !== address && !request.url().startsWith('data:') && !request.url().startsWith('blob:')) {
      wrong.push('asked for ' + request.url());
    }
  });
  if (before) await page.addInitScript(before);
  await page.goto(address);
  return { page, wrong, context };
}

for (const [width, height] of [[1280, 800], [390, 844]]) {
  for (const colorScheme of ['dark', 'light']) {
    const { page, wrong, context } = await open({ viewport: { width, height }, colorScheme });
    for (const details of await page.locator('details').all()) {
      await details.evaluate(element => { element.open = true; });
    }
    await page.waitForTimeout(300);
    const wide = await page.evaluate(() => document.scrollingElement.scrollWidth - document.scrollingElement.clientWidth);
    // Text that is cut off: wider than what shows it, where that does not scroll.
    const cut = await page.evaluate(() => [...document.querySelectorAll('main *, header *, nav *')].filter(element => {
      const style = getComputedStyle(element);
      const own = [...element.childNodes].some(node => node.nodeType === 3 && node.textContent.trim());
      return own && style.overflowX === 'hidden' && element.scrollWidth > element.clientWidth + 1;
    }).length);
    await page.addScriptTag({ path: axe });
    const found = await page.evaluate(() => axe.run(document, { resultTypes: ['violations'] }));
    const serious = found.violations.filter(each => each.impact === 'serious' || each.impact === 'critical');
    say(`${width}x${height} ${colorScheme}: ${wrong.length} errors, ${wide} pixels too wide, ${cut} cut off, ${serious.length} serious`);
    for (const each of wrong) say('  ' + each);
    for (const each of serious) say(`  ${each.id}: ${each.help}: ${each.nodes[0].html.slice(0, 200)}`);
    await context.close();
  }
}

// The lights: by the graphics processor, then by hand.
for (const [name, before] of [['webgl', undefined], ['canvas', () => {
  const get = HTMLCanvasElement.prototype.getContext;
  HTMLCanvasElement.prototype.getContext = function (kind, ...rest) { return kind === 'webgl2' ? null : get.call(this, kind, ...rest); };
}]]) {
  const { page, wrong, context } = await open({ viewport: { width: 1280, height: 800 } }, before);
  const scene = page.locator('.scene').first();
  if (!await scene.locator('.lights').evaluate(element => element.open)) await scene.locator('.lights > summary').click();
  await scene.locator('canvas[data-drawn]').waitFor();
  const shown = async () => Buffer.from(await scene.locator('canvas').evaluate(canvas => {
    const { data } = canvas.getContext('2d').getImageData(0, 0, canvas.width, canvas.height);
    let text = '';
    for (let i = 0; i < data.length; i += 32768) text += String.fromCharCode(...data.subarray(i, i + 32768));
    return btoa(text);
  }), 'base64');
  writeFileSync(`${folder}/${name}-own.bytes`, await shown());
  for (const [source, to] of Object.entries(asked.sources)) {
    const set = async (label, value) => {
      const input = scene.getByLabel(label + ' of ' + source, { exact: true });
      await input.evaluate((element, v) => { element.value = v; element.dispatchEvent(new Event('input', { bubbles: true })); }, String(value));
    };
    if (to.color) await set('Colour', to.color);
    if (to.brightness !== undefined) await set('Brightness', to.brightness);
  }
  for (const term of asked.without) await scene.getByLabel(term, { exact: true }).uncheck();
  writeFileSync(`${folder}/${name}-changed.bytes`, await shown());
  await scene.getByRole('button', { name: 'As the scene has it' }).click();
  const back = await shown();
  say(`${name}: ${back.equals(readFileSync(`${folder}/${name}-own.bytes`)) ? 'back again' : 'not back'}, ${wrong.length} errors`);
  page.setDefaultTimeout(8000);
  const canvas = scene.locator('canvas');
  await canvas.click({ position: { x: 40, y: 30 } });
  const parts = await scene.locator('.parts').textContent();
  say(`${name}: ${/^Pixel \(\d+, \d+\), linear: .* = .*; encoded \d+, \d+, \d+\.$/.test(parts) ? 'parts' : parts}`);
  await context.close();
}

// A viewer, where something failed: the wipe, the keyboard, all pictures together.
{
  const { page, context } = await open({ viewport: { width: 1280, height: 800 } });
  const viewer = page.locator('.viewer').first();
  if (await viewer.count()) {
    const style = name => viewer.locator('.frame').evaluateAll((frames, n) => frames.map(frame => frame.style.getPropertyValue(n)), name);
    await viewer.locator('input').focus();
    await page.keyboard.press('Home');
    const left = await style('--cut');
    await page.keyboard.press('End');
    const right = await style('--cut');
    say(`wipe: ${left[0]} to ${right[0]}`);
    await viewer.focus();
    await page.keyboard.press('+');
    await page.keyboard.press('+');
    await page.keyboard.press('ArrowRight');
    const zooms = await style('--zoom'), places = await style('--x');
    say(`keys: ${zooms.join(' ')}, ${new Set(places).size === 1 && parseFloat(places[0]) < 0 ? 'moved together' : places.join(' ')}`);
    await page.keyboard.press('0');
    say(`all again: ${(await style('--zoom')).join(' ')}, ${(await viewer.locator('.zoom').textContent())}`);
    const box = await viewer.locator('.frame').nth(1).boundingBox();
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.wheel(0, -400);
    await page.waitForTimeout(100);
    const wheeled = await style('--zoom');
    say(`wheel: ${new Set(wheeled).size === 1 && parseFloat(wheeled[0]) > 1.5 ? 'nearer together' : wheeled.join(' ')}`);
  }
  const names = await page.locator('.scene h3').allTextContents();
  writeFileSync(folder + '/names.json', JSON.stringify(names));
  const data = JSON.parse(await page.locator('#data').textContent());
  say(`data: ${data.checks.length > 0 && 'passed' in data ? 'checks' : 'none'}`);
  const when = await page.evaluate(() => performance.getEntriesByType('navigation')[0].domInteractive);
  console.error(`interactive after ${Math.round(when)} ms`);
  await context.close();
}
await browser.close();
