// An outline dragged over a photograph by mouse, touch or keys. Without this file one types numbers.
// Four corners make a perspective, the middles of the sides bend it; the server counts the same way.
"use strict";

const MIDDLES = [[0.5, 0], [1, 0.5], [0.5, 1], [0, 0.5]];
const NAMES = [gettext("Top left"), gettext("Top right"), gettext("Bottom right"), gettext("Bottom left")];
const SIDES = [gettext("Top side"), gettext("Right side"), gettext("Bottom side"), gettext("Left side")];
const STEP = 1 / 1500; // of the photograph's width, for one press of an arrow key
const ARROWS = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };

function made(name, parent, attributes = {}) {
  const element = document.createElementNS("http://www.w3.org/2000/svg", name);
  for (const [key, value] of Object.entries(attributes)) element.setAttribute(key, value);
  return parent.appendChild(element);
}

function pairs(text) {
  return text.trim() ? text.trim().split(/\s+/).map((pair) => pair.split(",").map(Number)) : [];
}

// From the unit square to four corners (Heckbert 1989).
function perspective([a, b, c, d]) {
  const sum = [a[0] - b[0] + c[0] - d[0], a[1] - b[1] + c[1] - d[1]];
  const one = [b[0] - c[0], b[1] - c[1]];
  const two = [d[0] - c[0], d[1] - c[1]];
  const all = one[0] * two[1] - two[0] * one[1] || 1e-9;
  const g = (sum[0] * two[1] - two[0] * sum[1]) / all;
  const h = (one[0] * sum[1] - sum[0] * one[1]) / all;
  return [
    [b[0] - a[0] + g * b[0], d[0] - a[0] + h * d[0], a[0]],
    [b[1] - a[1] + g * b[1], d[1] - a[1] + h * d[1], a[1]],
    [g, h, 1],
  ];
}

function through(matrix, [x, y]) {
  const [p, q, w] = matrix.map((row) => row[0] * x + row[1] * y + row[2]);
  return [p / w, q / w];
}

function inverse([[a, b, c], [d, e, f], [g, h, i]]) {
  return [
    [e * i - f * h, c * h - b * i, b * f - c * e],
    [f * g - d * i, a * i - c * g, c * d - a * f],
    [d * h - e * g, b * g - a * h, a * e - b * d],
  ];
}

class Placing {
  constructor(svg, form) {
    this.svg = svg;
    this.form = form;
    this.size = svg.getAttribute("viewBox").split(" ").slice(2).map(Number);
    this.box = svg.dataset.box.split(",").map(Number);
    this.cells = [...svg.querySelectorAll(".laid")];
    this.handles = made("g", svg);
    this.read();
    form.addEventListener("change", () => this.read());
    svg.addEventListener("pointerdown", (event) => this.grab(event));
    svg.addEventListener("click", (event) => this.click(event));
    svg.addEventListener("keydown", (event) => this.press(event));
  }

  read() {
    const scaled = (name) => pairs(this.form[name].value).map(([x, y]) => [x * this.size[0], y * this.size[1]]);
    this.corners = scaled("corners");
    this.paper = scaled("paper");
    const back = inverse(perspective(this.corners));
    const sides = scaled("sides");
    this.bows = MIDDLES.map((middle, n) => {
      const at = sides[n] ? through(back, sides[n]) : middle;
      return [at[0] - middle[0], at[1] - middle[1]];
    });
    this.nudges = {};
    for (const part of this.form.nudges.value.trim().split(/\s+/).filter(Boolean)) {
      const [name, moved] = part.split(":");
      this.nudges[name] = moved.split(",").map(Number);
    }
    this.draw();
  }

  at([u, v]) {
    const bend = [4 * u * (1 - u) * (1 - v), 4 * v * (1 - v) * u, 4 * u * (1 - u) * v, 4 * v * (1 - v) * (1 - u)];
    const moved = [0, 1].map((axis) =>
      bend.reduce((sum, weight, n) => sum + Math.max(-1, Math.min(1, weight)) * this.bows[n][axis], 0));
    return through(this.matrix, [u + moved[0], v + moved[1]]);
  }

  moved(cell, [u, v]) {
    const [across, down] = this.nudges[cell.dataset.cell] ?? [0, 0];
    return [u + across / this.box[0], v + down / this.box[1]];
  }

  draw() {
    this.matrix = perspective(this.corners);
    for (const cell of this.cells) {
      const corners = pairs(cell.dataset.corners).map((corner) => this.moved(cell, corner));
      const line = corners.flatMap((from, n) => {
        const to = corners[(n + 1) % corners.length];
        return [0, 0.25, 0.5, 0.75].map((t) => this.at([from[0] + t * (to[0] - from[0]), from[1] + t * (to[1] - from[1])]));
      });
      cell.querySelectorAll("polygon").forEach((polygon) => polygon.setAttribute("points", line.join(" ")));
      const [x, y] = [0, 1].map((axis) => line.reduce((sum, point) => sum + point[axis], 0) / line.length);
      const text = cell.querySelector("text");
      text.setAttribute("x", x);
      text.setAttribute("y", y);
      text.setAttribute("font-size", this.size[0] / 55);
    }
    const wanted = [
      ...this.corners.map((at, n) => ({ kind: "corner", n, at, name: `${NAMES[n]} corner` })),
      ...MIDDLES.map((middle, n) => ({ kind: "side", n, at: this.at(middle), name: SIDES[n] })),
      { kind: "all", n: 0, at: this.at([0.5, 0.5]), name: gettext("Whole outline") },
      ...this.paper.map((at, n) => ({ kind: "paper", n, at, name: gettext("Bare paper %(number)s", { number: n + 1 }) })),
    ];
    while (this.handles.children.length > wanted.length) this.handles.lastChild.remove();
    wanted.forEach((one, n) => this.show(one, this.handles.children[n] ?? this.handle()));
    const share = (point) => point.map((part, axis) => (part / this.size[axis]).toFixed(4)).join(",");
    this.form.corners.value = this.corners.map(share).join(" ");
    this.form.sides.value = MIDDLES.map((middle) => share(this.at(middle))).join(" ");
    this.form.paper.value = this.paper.map(share).join(" ");
    this.form.nudges.value = Object.entries(this.nudges)
      .map(([name, by]) => `${name}:${by.map((part) => part.toFixed(1)).join(",")}`).join(" ");
    this.form.querySelector("#paper-count").textContent =
      this.paper.length === 1
        ? gettext("1 place of bare paper.")
        : gettext("%(count)s places of bare paper.", { count: this.paper.length });
  }

  handle() {
    const group = made("g", this.handles, { tabindex: 0, role: "button" });
    made("circle", group, { class: "reach" });
    made("path", group, { class: "under" });
    made("path", group, { class: "over" });
    return group;
  }

  show({ kind, n, at, name }, group) {
    const r = this.size[0] / (kind === "corner" ? 70 : 95);
    const shapes = {
      corner: `M${-r},0A${r},${r} 0 1 1 ${r},0A${r},${r} 0 1 1 ${-r},0M${-r},0H${r}M0,${-r}V${r}`,
      side: `M${-r},0L0,${-r}L${r},0L0,${r}Z`,
      all: `M${-r * 1.4},0H${r * 1.4}M0,${-r * 1.4}V${r * 1.4}`,
      paper: `M${-r},${-r}H${r}V${r}H${-r}Z`,
    };
    group.setAttribute("class", `handle ${kind}`);
    group.setAttribute("transform", `translate(${at.join(" ")})`);
    group.setAttribute("aria-label", gettext("%(name)s: arrow keys move it", { name }));
    group.dataset.kind = kind;
    group.dataset.n = n;
    group.querySelector("circle").setAttribute("r", r * 2);
    group.querySelectorAll("path").forEach((path) => path.setAttribute("d", shapes[kind]));
  }

  move(target, by) {
    const bounded = (point) => point.map((part, axis) => Math.max(0, Math.min(this.size[axis], part + by[axis])));
    const kind = target.dataset.kind ?? "cell";
    const n = Number(target.dataset.n);
    const back = inverse(this.matrix);
    if (kind === "corner") this.corners[n] = bounded(this.corners[n]);
    if (kind === "paper") this.paper[n] = bounded(this.paper[n]);
    if (kind === "all") this.corners = this.corners.map(bounded);
    if (kind === "side") {
      const at = through(back, bounded(this.at(MIDDLES[n])));
      this.bows[n] = [at[0] - MIDDLES[n][0], at[1] - MIDDLES[n][1]];
    }
    if (kind === "cell") {
      const from = this.at(this.moved(target, pairs(target.dataset.corners)[0]));
      const [before, after] = [from, bounded(from)].map((point) => through(back, point));
      const [across, down] = this.nudges[target.dataset.cell] ?? [0, 0];
      this.nudges[target.dataset.cell] = [across + (after[0] - before[0]) * this.box[0], down + (after[1] - before[1]) * this.box[1]];
    }
    this.draw();
  }

  point(event) {
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(this.svg.getScreenCTM().inverse());
    return [at.x, at.y];
  }

  grab(event) {
    const target = event.target.closest(".handle, .laid");
    this.dragged = false;
    if (!target) return;
    event.preventDefault();
    target.focus();
    let last = this.point(event);
    const follow = (later) => {
      const now = this.point(later);
      this.dragged = true;
      this.move(target, [now[0] - last[0], now[1] - last[1]]);
      last = now;
    };
    this.svg.setPointerCapture(event.pointerId);
    this.svg.addEventListener("pointermove", follow);
    for (const end of ["pointerup", "pointercancel"]) {
      this.svg.addEventListener(end, () => this.svg.removeEventListener("pointermove", follow), { once: true });
    }
  }

  click(event) {
    if (this.dragged) return;
    const paper = document.elementFromPoint(event.clientX, event.clientY)?.closest(".paper");
    if (paper) this.paper.splice(Number(paper.dataset.n), 1);
    else if (!document.elementFromPoint(event.clientX, event.clientY)?.closest(".handle, .laid")) this.paper.push(this.point(event));
    this.draw();
  }

  press(event) {
    const target = event.target.closest(".handle, .laid");
    const arrow = ARROWS[event.key];
    const removes = ["Delete", "Backspace"].includes(event.key) && target?.dataset.kind === "paper";
    if (!target || !(arrow || removes)) return;
    event.preventDefault();
    event.stopPropagation();
    if (removes) {
      this.paper.splice(Number(target.dataset.n), 1);
      this.draw();
      return;
    }
    const far = STEP * this.size[0] * (event.shiftKey ? 10 : 1);
    this.move(target, [arrow[0] * far, arrow[1] * far]);
  }

  turn() {
    this.corners = [...this.corners.slice(-1), ...this.corners.slice(0, -1)];
    this.bows = MIDDLES.map(() => [0, 0]);
    this.draw();
  }

  straighten() {
    this.bows = MIDDLES.map(() => [0, 0]);
    this.draw();
  }

  addPaper() {
    this.paper.push([this.size[0] / 2, this.size[1] / 2]);
    this.draw();
    this.handles.lastChild.focus();
  }
}

document.addEventListener("DOMContentLoaded", () => {
  const svg = document.getElementById("placing");
  if (!svg) return;
  const placing = new Placing(svg, document.getElementById("outline-form"));
  for (const [button, act] of [["turn", "turn"], ["straight", "straighten"], ["more-paper", "addPaper"]]) {
    document.getElementById(button).addEventListener("click", () => placing[act]());
  }
});
