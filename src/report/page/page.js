'use strict';
(() => {
const root = document.documentElement;
document.getElementById('theme').addEventListener('click', () => {
  const dark = (root.dataset.theme || (matchMedia('(prefers-color-scheme: light)').matches ? 'light' : 'dark')) === 'dark';
  root.dataset.theme = dark ? 'light' : 'dark';
});

// Viewers: pictures beside each other that zoom and move together, and a wipe line.
for (const viewer of document.querySelectorAll('.viewer')) {
  const frames = [...viewer.querySelectorAll('.frame')];
  const told = viewer.querySelector('.zoom');
  const wipe = viewer.querySelector('input');
  let zoom = 1, x = 0, y = 0, cut = 50; // x, y: shares of a frame's size by which the picture's corner is moved
  const clamp = (v, low, high) => Math.min(high, Math.max(low, v));
  const show = () => {
    x = clamp(x, 1 - zoom, 0);
    y = clamp(y, 1 - zoom, 0);
    for (const frame of frames) {
      frame.style.setProperty('--zoom', zoom);
      frame.style.setProperty('--x', x * frame.clientWidth + 'px');
      frame.style.setProperty('--y', y * frame.clientHeight + 'px');
      frame.style.setProperty('--wipe', cut + '%');
      frame.style.setProperty('--cut', clamp((cut / 100 - x) / zoom, 0, 1) * 100 + '%');
    }
    told.textContent = (Math.round(zoom * 10) / 10) + 'x';
  };
  const zoom_at = (to, at_x, at_y) => {
    to = clamp(to, 1, 64);
    x = at_x - (at_x - x) * to / zoom;
    y = at_y - (at_y - y) * to / zoom;
    zoom = to;
    show();
  };
  wipe.addEventListener('input', () => { cut = +wipe.value; show(); });
  for (const frame of frames) {
    const place = event => {
      const box = frame.getBoundingClientRect();
      return [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height];
    };
    frame.addEventListener('wheel', event => {
      event.preventDefault();
      zoom_at(zoom * Math.exp(-event.deltaY * 0.002), ...place(event));
    }, { passive: false });
    let held = null;
    frame.addEventListener('pointerdown', event => { held = place(event); frame.setPointerCapture(event.pointerId); });
    frame.addEventListener('pointermove', event => {
      if (held) {
        const now = place(event);
        x += now[0] - held[0];
        y += now[1] - held[1];
        held = now;
        show();
      }
    });
    frame.addEventListener('pointerup', () => { held = null; });
    frame.addEventListener('pointercancel', () => { held = null; });
  }
  viewer.addEventListener('keydown', event => {
    if (event.target === wipe) {
      return;
    }
    const step = 0.1;
    if (event.key === '+' || event.key === '=') zoom_at(zoom * 1.5, 0.5, 0.5);
    else if (event.key === '-') zoom_at(zoom / 1.5, 0.5, 0.5);
    else if (event.key === '0') { zoom = 1; show(); }
    else if (event.key === 'ArrowLeft') { x += step; show(); }
    else if (event.key === 'ArrowRight') { x -= step; show(); }
    else if (event.key === 'ArrowUp') { y += step; show(); }
    else if (event.key === 'ArrowDown') { y -= step; show(); }
    else return;
    event.preventDefault();
  });
  addEventListener('resize', show);
  show();
}

// Light is a sum: each scene's layers are added up again under other lights.
const encoded = v => v <= 0.0031308 ? 12.92 * v : 1.055 * Math.pow(v, 1 / 2.4) - 0.055;
const decoded = v => v <= 0.04045 ? v / 12.92 : Math.pow((v + 0.055) / 1.055, 2.4);
const code = v => Math.round(255 * encoded(Math.min(1, Math.max(0, v))));
const of_half = bits => {
  const exponent = bits >> 10 & 31, part = bits & 1023;
  return exponent === 0 ? part * 2 ** -24 : (1024 + part) * 2 ** (exponent - 25);
};

// Numbers as they are packed: bytes apart, what is left and above taken away, green and blue less red.
async function unpacked(scene) {
  const text = atob(scene.packed);
  const packed = Uint8Array.from(text, c => c.charCodeAt(0));
  const stream = new Blob([packed]).stream().pipeThrough(new DecompressionStream('deflate'));
  const bytes = new Uint8Array(await new Response(stream).arrayBuffer());
  const { width, height } = scene, pixels = width * height, layers = [];
  let at = 0;
  for (let l = 0; l < scene.layers.length + 1; ++l) { // the background first
    const planes = [];
    for (let c = 0; c < 3; ++c) {
      const plane = new Int32Array(pixels);
      for (let i = 0; i < pixels; ++i) {
        const folded = bytes[at + i] << 8 | bytes[at + pixels + i];
        const off = folded & 1 ? -(folded + 1 >> 1) : folded >> 1;
        const column = i % width;
        const left = column > 0 ? plane[i - 1] : 0;
        const above = i >= width ? plane[i - width] : 0;
        const corner = column > 0 && i >= width ? plane[i - width - 1] : 0;
        plane[i] = off + (i < width ? left : column === 0 ? above : left + above - corner) << 16 >> 16;
      }
      at += 2 * pixels;
      planes.push(plane);
    }
    const layer = new Uint16Array(3 * pixels);
    for (let i = 0; i < pixels; ++i) {
      const red = planes[0][i];
      layer[3 * i] = (red & 0xFFFF) << scene.shift;
      layer[3 * i + 1] = (red + planes[1][i] & 0xFFFF) << scene.shift;
      layer[3 * i + 2] = (red + planes[2][i] & 0xFFFF) << scene.shift;
    }
    layers.push(layer);
  }
  return layers;
}

// Adds up in the graphics processor, all scenes in one context; nothing where there is none.
const adder = (() => {
  const canvas = document.createElement('canvas');
  const gl = canvas.getContext('webgl2', { preserveDrawingBuffer: true, alpha: false, antialias: false });
  if (!gl) {
    return null;
  }
  const most = 32;
  const shader = (kind, text) => {
    const made = gl.createShader(kind);
    gl.shaderSource(made, text);
    gl.compileShader(made);
    return made;
  };
  const program = gl.createProgram();
  gl.attachShader(program, shader(gl.VERTEX_SHADER, `#version 300 es
void main() { gl_Position = vec4(vec2(gl_VertexID & 1, gl_VertexID >> 1) * 4.0 - 1.0, 0.0, 1.0); }`));
  gl.attachShader(program, shader(gl.FRAGMENT_SHADER, `#version 300 es
precision highp float;
precision highp sampler2DArray;
uniform sampler2DArray layers;
uniform vec3 factors[${most}];
uniform int count, height;
out vec4 color;
void main() {
  ivec2 at = ivec2(int(gl_FragCoord.x), height - 1 - int(gl_FragCoord.y));
  vec3 sum = vec3(0.0);
  for (int i = 0; i < count; ++i) sum += texelFetch(layers, ivec3(at, i), 0).rgb * factors[i];
  sum = clamp(sum, 0.0, 1.0);
  color = vec4(mix(1.055 * pow(max(sum, 1e-6), vec3(1.0 / 2.4)) - 0.055, 12.92 * sum, lessThanEqual(sum, vec3(0.0031308))), 1.0);
}`));
  gl.linkProgram(program);
  if (!gl.getProgramParameter(program, gl.LINK_STATUS)) {
    return null;
  }
  const textures = new Map();
  return {
    takes: (width, height, count) => count <= most && Math.max(width, height) <= gl.getParameter(gl.MAX_TEXTURE_SIZE),
    draw(key, width, height, layers, factors) {
      canvas.width = width;
      canvas.height = height;
      gl.viewport(0, 0, width, height);
      gl.useProgram(program);
      if (!textures.has(key)) {
        const texture = gl.createTexture();
        gl.bindTexture(gl.TEXTURE_2D_ARRAY, texture);
        gl.pixelStorei(gl.UNPACK_ALIGNMENT, 1);
        gl.texImage3D(gl.TEXTURE_2D_ARRAY, 0, gl.RGB16F, width, height, layers.length, 0, gl.RGB, gl.HALF_FLOAT, null);
        layers.forEach((layer, i) => gl.texSubImage3D(gl.TEXTURE_2D_ARRAY, 0, 0, 0, i, width, height, 1, gl.RGB, gl.HALF_FLOAT, layer));
        gl.texParameteri(gl.TEXTURE_2D_ARRAY, gl.TEXTURE_MIN_FILTER, gl.NEAREST);
        gl.texParameteri(gl.TEXTURE_2D_ARRAY, gl.TEXTURE_MAG_FILTER, gl.NEAREST);
        textures.set(key, texture);
      }
      gl.bindTexture(gl.TEXTURE_2D_ARRAY, textures.get(key));
      gl.uniform3fv(gl.getUniformLocation(program, 'factors'), new Float32Array(factors.flat()));
      gl.uniform1i(gl.getUniformLocation(program, 'count'), layers.length);
      gl.uniform1i(gl.getUniformLocation(program, 'height'), height);
      gl.drawArrays(gl.TRIANGLES, 0, 3);
      return canvas;
    },
  };
})();

const half_values = new Float32Array(65536).map((_, i) => i < 0x7C00 ? of_half(i) : 0);
function added_by_hand(width, height, layers, factors) {
  const image = new ImageData(width, height);
  for (let i = 0; i < width * height; ++i) {
    for (let c = 0; c < 3; ++c) {
      let sum = 0;
      for (let l = 0; l < layers.length; ++l) sum += half_values[layers[l][3 * i + c]] * factors[l][c];
      image.data[4 * i + c] = code(sum);
    }
    image.data[4 * i + 3] = 255;
  }
  return image;
}

const all = JSON.parse(document.getElementById('layers').textContent);
const hex = color => '#' + color.map(v => code(v).toString(16).padStart(2, '0')).join('');
const from_hex = text => [1, 3, 5].map(i => decoded(parseInt(text.slice(i, i + 2), 16) / 255));

for (const article of document.querySelectorAll('.scene')) {
  const details = article.querySelector('.lights');
  const scene = all[article.dataset.scene];
  if (!details || !scene) {
    continue;
  }
  if (typeof DecompressionStream === 'undefined') {
    details.querySelector('.parts').textContent = 'This browser cannot unpack the layers of light.';
    continue;
  }
  const image = article.querySelector('img'), canvas = article.querySelector('canvas');
  const controls = details.querySelector('.controls'), parts = details.querySelector('.parts');
  let layers = null;
  // What can be changed: brightness and colour of each light and of ambient light, and which terms count.
  const sources = scene.lights.map(light => ({ name: light.name, color: light.color, strength: light.intensity }));
  sources.push({ name: 'ambient light', color: scene.ambient.color, strength: scene.ambient.strength });
  const terms = Object.fromEntries(scene.terms.map(term => [term, true]));
  const factors = () => [[1, 1, 1], ...scene.layers.map(layer => {
    if (!terms[layer.term]) return [0, 0, 0];
    if (layer.term === 'emission') return [1, 1, 1];
    const source = sources[layer.light ?? sources.length - 1];
    return source.color.map(v => v * source.strength);
  })];
  const draw = () => {
    const { width, height } = scene, context = canvas.getContext('2d', { willReadFrequently: true });
    if (adder && adder.takes(width, height, layers.length)) {
      context.drawImage(adder.draw(article.dataset.scene, width, height, layers, factors()), 0, 0);
    } else {
      context.putImageData(added_by_hand(width, height, layers, factors()), 0, 0);
    }
    image.hidden = true;
    canvas.hidden = false;
    canvas.dataset.drawn = +(canvas.dataset.drawn || 0) + 1;
  };
  const unpack = async () => {
    if (!layers) {
      layers = await unpacked(scene);
      draw();
    }
  };
  for (const source of sources) {
    const row = document.createElement('div');
    row.className = 'control';
    const name = document.createElement('bdi');
    name.textContent = source.name;
    const slider = Object.assign(document.createElement('input'), { type: 'range', min: 0, max: Math.max(1, 4 * source.strength), step: 'any', value: source.strength });
    slider.setAttribute('aria-label', 'Brightness of ' + source.name);
    const color = Object.assign(document.createElement('input'), { type: 'color', value: hex(source.color) });
    color.setAttribute('aria-label', 'Colour of ' + source.name);
    const shown = document.createElement('output');
    const tell = () => { shown.textContent = (+source.strength).toPrecision(3); };
    slider.addEventListener('input', () => { source.strength = +slider.value; tell(); if (layers) draw(); });
    color.addEventListener('input', () => { source.color = from_hex(color.value); if (layers) draw(); });
    tell();
    row.append(name, slider, shown, color);
    controls.append(row);
  }
  const choice = document.createElement('fieldset');
  choice.className = 'terms';
  choice.append(Object.assign(document.createElement('legend'), { textContent: 'Terms' }));
  for (const term of scene.terms) {
    const label = document.createElement('label');
    const box = Object.assign(document.createElement('input'), { type: 'checkbox', checked: true });
    box.addEventListener('change', () => { terms[term] = box.checked; if (layers) draw(); });
    label.append(box, term);
    choice.append(label);
  }
  const again = Object.assign(document.createElement('button'), { type: 'button', textContent: 'As the scene has it' });
  again.addEventListener('click', () => {
    scene.lights.concat([{ color: scene.ambient.color, intensity: scene.ambient.strength }]).forEach((light, i) => {
      sources[i].color = light.color;
      sources[i].strength = light.intensity;
      const row = controls.children[i];
      row.querySelector('[type=range]').value = light.intensity;
      row.querySelector('[type=color]').value = hex(light.color);
      row.querySelector('output').textContent = (+light.intensity).toPrecision(3);
    });
    for (const box of choice.querySelectorAll('input')) box.checked = true;
    for (const term of scene.terms) terms[term] = true;
    if (layers) draw();
  });
  controls.append(choice, again);
  details.addEventListener('toggle', () => { if (details.open) unpack(); });
  if (all.length === 1) details.open = true;

  const work = async event => {
    await unpack();
    const box = canvas.getBoundingClientRect();
    const at_x = Math.min(scene.width - 1, Math.floor((event.clientX - box.left) / box.width * scene.width));
    const at_y = Math.min(scene.height - 1, Math.floor((event.clientY - box.top) / box.height * scene.height));
    const i = at_y * scene.width + at_x, now = factors(), sum = [0, 0, 0], lines = [];
    layers.forEach((layer, l) => {
      const value = [0, 1, 2].map(c => half_values[layer[3 * i + c]] * now[l][c]);
      value.forEach((v, c) => { sum[c] += v; });
      if (value.some(v => v > 0)) {
        const what = l === 0 ? 'background' : scene.layers[l - 1];
        const name = l === 0 ? what : (what.light != null ? sources[what.light].name + ', ' : '') + what.term;
        lines.push(name + ' ' + value.map(v => v.toPrecision(3)).join(', '));
      }
    });
    details.open = true;
    parts.textContent = `Pixel (${at_x}, ${at_y}), linear: ` + (lines.join(' + ') || '0') + ' = ' +
      sum.map(v => v.toPrecision(4)).join(', ') + '; encoded ' + sum.map(code).join(', ') + '.';
  };
  image.addEventListener('click', work);
  canvas.addEventListener('click', work);
}
})();
