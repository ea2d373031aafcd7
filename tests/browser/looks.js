// Looks at the page as it is drawn; each answers with what is wrong, a line each.

const seen = (el) => el.getClientRects().length > 0 && getComputedStyle(el).visibility !== "hidden";
const named = (el) =>
  (el.getAttribute("aria-label") || el.textContent || el.tagName).trim().slice(0, 60);

/** Words too small to read at arm's length, those of pictures as large as they are drawn. */
function smallTexts() {
  const walk = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  const small = [];
  for (let text = walk.nextNode(); text; text = walk.nextNode()) {
    const at = text.parentElement;
    if (!text.textContent.trim() || !seen(at) || at.closest("style, script, title")) continue;
    const matrix = at.closest("text")?.getScreenCTM?.();
    const scale = matrix ? Math.hypot(matrix.a, matrix.b) : 1;
    const size = parseFloat(getComputedStyle(at).fontSize) * scale;
    if (size < 12.99) small.push(`${size.toFixed(1)}px ${text.textContent.trim()}`);
  }
  return small;
}

/** Presses and fields too small for a glove. */
function smallTargets(least) {
  return [...document.querySelectorAll("button, input:not([type=hidden]), select, textarea")]
    .filter((el) => seen(el) && !el.closest("[aria-hidden=true]"))
    .map((el) => ({ el, box: (el.closest("label") ?? el).getBoundingClientRect() }))
    .filter(({ box }) => box.width > 2 && box.height > 2 && box.height < least - 0.5)
    .map(({ el, box }) => `${box.height.toFixed(0)}px ${named(el)}`);
}

const rgb = (colour) => (colour.match(/[0-9.]+/g) ?? []).map(Number);
function light(colour) {
  const [r, g, b] = rgb(colour).map((v) => {
    const part = v / 255;
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
  });
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}
function contrast(a, b) {
  const [low, high] = [light(a), light(b)].sort((x, y) => x - y);
  return (high + 0.05) / (low + 0.05);
}
function ground(el) {
  for (let at = el; at; at = at.parentElement) {
    const colour = getComputedStyle(at).backgroundColor;
    if (rgb(colour)[3] !== 0) return colour;
  }
  return "rgb(255, 255, 255)";
}

/** Fields and choices whose border does not stand out from the ground round them. */
function faintBorders(least) {
  const all =
    "input:not([type=file]):not([type=hidden]), select, textarea, label:has([type=radio])";
  return [...document.querySelectorAll(all)].filter(seen).flatMap((el) => {
    const look = getComputedStyle(el);
    const box = el.getBoundingClientRect();
    if (box.width < 3 || parseFloat(look.borderTopWidth) === 0) return [];
    const found = contrast(look.borderTopColor, ground(el.parentElement));
    return found < least ? [`${found.toFixed(1)} ${named(el)}`] : [];
  });
}

const apart = (a, b) =>
  a.right <= b.left + 1 || b.right <= a.left + 1 || a.bottom <= b.top + 1 || b.bottom <= a.top + 1;

/** In drawings of the drive: names over wheels, marks, chains, each other; whatever is cut off. */
function crowdedDrives() {
  const wrong = [];
  for (const svg of document.querySelectorAll("svg:has([data-chain])")) {
    const frame = svg.getBoundingClientRect();
    const boxes = (name) =>
      [...svg.querySelectorAll(name)].map((el) => ({ el, box: el.getBoundingClientRect() }));
    const words = boxes("[data-labels] text").map(({ el, box }) => ({ says: el.textContent, box }));
    for (const { el, box } of boxes("[data-chain], [data-bend], [data-spin], [data-labels] text"))
      if (
        box.left < frame.left - 1 ||
        box.right > frame.right + 1 ||
        box.top < frame.top - 1 ||
        box.bottom > frame.bottom + 1
      )
        wrong.push(
          `cut off: ${el.dataset.chain ?? el.dataset.bend ?? el.dataset.spin ?? el.textContent}`,
        );
    words.forEach((one, i) => {
      for (const other of words.slice(i + 1))
        if (!apart(one.box, other.box)) wrong.push(`${one.says} over ${other.says}`);
      for (const { el, box } of boxes("[data-meet]"))
        if (!apart(one.box, box)) wrong.push(`${one.says} over mark ${el.dataset.meet}`);
      for (const { el } of boxes("[data-spin]")) {
        const [own, matrix] = [el.getBBox(), el.getScreenCTM()];
        if (Math.abs(own.x + own.width / 2) > 0.1 * own.width) continue; // a mark, no wheel
        const [x, y] = [matrix.e, matrix.f];
        const radius = (own.width / 2) * Math.hypot(matrix.a, matrix.b);
        const far = Math.hypot(
          Math.max(one.box.left - x, 0, x - one.box.right),
          Math.max(one.box.top - y, 0, y - one.box.bottom),
        );
        if (far < radius - 2) wrong.push(`${one.says} over ${el.dataset.spin}`);
      }
      for (const { el } of boxes("[data-what=pins]")) {
        const matrix = el.getScreenCTM();
        const hit = [...el.getAttribute("d").matchAll(/M(-?[0-9.]+) (-?[0-9.]+)/g)].some((m) => {
          const p = new DOMPoint(Number(m[1]), Number(m[2])).matrixTransform(matrix);
          const { left, right, top, bottom } = one.box;
          return p.x > left && p.x < right && p.y > top && p.y < bottom;
        });
        if (hit) wrong.push(`${one.says} over chain ${el.dataset.chain}`);
      }
    });
  }
  return wrong;
}
