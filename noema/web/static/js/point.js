// A cross is moved over a picture by mouse, touch or keys, with what lies under it magnified.
// Without this file one types where a spot lies.
"use strict";

const STEP = 0.2; // of a hundred, for one press of an arrow key
const ARROWS = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] };
const MAGNIFIED = 16; // times a spot's radius that the magnifier shows across

function made(name, parent, attributes = {}) {
  const element = document.createElementNS("http://www.w3.org/2000/svg", name);
  for (const [key, value] of Object.entries(attributes)) element.setAttribute(key, value);
  return parent.appendChild(element);
}

class Pointing {
  constructor(picture, form) {
    this.picture = picture;
    this.form = form;
    this.size = picture.getAttribute("viewBox").split(" ").slice(2).map(Number);
    this.glass = form.querySelector("#magnifier");
    this.cross = made("g", picture, { class: "cross", tabindex: 0, role: "button" });
    made("path", this.cross, { class: "spot-under" });
    made("path", this.cross, { class: "spot-over" });
    picture.addEventListener("pointerdown", (event) => this.grab(event));
    this.cross.addEventListener("keydown", (event) => this.press(event));
    for (const name of ["x", "y", "radius"]) form[name].addEventListener("change", () => this.draw());
    this.draw();
  }

  draw() {
    const [x, y] = [this.form.x, this.form.y].map((input, axis) => (Number(input.value) / 100) * this.size[axis]);
    const radius = Number(this.form.radius.value) * Math.max(...this.size);
    const arm = Math.max(radius * 2, this.size[0] / 30);
    const path = `M${-radius},0A${radius},${radius} 0 1 1 ${radius},0A${radius},${radius} 0 1 1 ${-radius},0M${-arm},0H${-radius}M${radius},0H${arm}M0,${-arm}V${-radius}M0,${radius}V${arm}`;
    this.cross.setAttribute("transform", `translate(${x} ${y})`);
    this.cross.querySelectorAll("path").forEach((one) => one.setAttribute("d", path));
    this.cross.setAttribute("aria-label", gettext("Cross at %(x)s across, %(y)s down: arrow keys move it, Enter takes the spot", { x: Math.round(this.form.x.value), y: Math.round(this.form.y.value) }));
    const side = MAGNIFIED * Math.max(radius, this.size[0] / 200);
    this.glass.setAttribute("viewBox", `${x - side / 2} ${y - side / 2} ${side} ${side}`);
    this.glass.querySelectorAll("circle").forEach((circle) => {
      circle.setAttribute("cx", x);
      circle.setAttribute("cy", y);
      circle.setAttribute("r", radius);
    });
  }

  place(shares) {
    [this.form.x, this.form.y].forEach((input, axis) => {
      input.value = Math.max(0, Math.min(100, shares[axis])).toFixed(2);
    });
    this.draw();
  }

  share(event) {
    const at = new DOMPoint(event.clientX, event.clientY).matrixTransform(this.picture.getScreenCTM().inverse());
    return [(100 * at.x) / this.size[0], (100 * at.y) / this.size[1]];
  }

  grab(event) {
    if (event.target.closest(".spot")) return;
    event.preventDefault();
    this.cross.focus();
    this.place(this.share(event));
    const follow = (later) => this.place(this.share(later));
    this.picture.setPointerCapture(event.pointerId);
    this.picture.addEventListener("pointermove", follow);
    for (const end of ["pointerup", "pointercancel"]) {
      this.picture.addEventListener(end, () => this.picture.removeEventListener("pointermove", follow), { once: true });
    }
  }

  press(event) {
    if (event.key === "Enter") {
      event.preventDefault();
      this.form.requestSubmit();
      return;
    }
    const arrow = ARROWS[event.key];
    if (!arrow) return;
    event.preventDefault();
    event.stopPropagation();
    const far = STEP * (event.shiftKey ? 10 : 1);
    this.place([this.form.x, this.form.y].map((input, axis) => Number(input.value) + arrow[axis] * far));
  }
}

document.addEventListener("DOMContentLoaded", () => {
  const picture = document.querySelector("[data-points]");
  if (picture) new Pointing(picture, document.getElementById(picture.dataset.points));
});
