// What is painted in a lesson to come is drawn to another, or moved, pinned and split by keys.
// Without this file each lesson is a link, and the list below changes the same.
"use strict";

const FARTHEST_CLICK = 5; // pixels
const KEPT = "noema-piece";
const KEYS = { ArrowLeft: "earlier", ArrowRight: "later", p: "pin", s: "split" };

const send = (piece, act, to = "") => {
  const form = document.getElementById("piece-form");
  const { wish, number } = piece.dataset;
  sessionStorage.setItem(KEPT, JSON.stringify({ wish, number }));
  for (const [name, value] of Object.entries({ wish, number, act, to })) form.elements[name].value = value;
  form.submit();
};

const columnAt = (svg, x) =>
  [...svg.querySelectorAll(".lesson-column")].find((column) => {
    const box = column.getBoundingClientRect();
    return x >= box.left && x <= box.right;
  });

const onto = (svg, x) => {
  const column = columnAt(svg, x);
  return column && column.dataset.open ? column : null;
};

const draw = (svg, piece, down) => {
  let far = 0;
  const scale = svg.viewBox.baseVal.width / svg.getBoundingClientRect().width;
  const mark = (column) => {
    for (const other of svg.querySelectorAll(".lesson-column.under")) other.classList.remove("under");
    if (column) column.classList.add("under");
  };
  const move = (event) => {
    far = Math.max(far, Math.abs(event.clientX - down.clientX));
    if (far <= FARTHEST_CLICK) return;
    piece.setAttribute("transform", `translate(${(event.clientX - down.clientX) * scale} 0)`);
    mark(onto(svg, event.clientX));
  };
  const end = (event) => {
    piece.removeEventListener("pointermove", move);
    piece.removeEventListener("pointerup", end);
    piece.removeEventListener("pointercancel", end);
    piece.removeAttribute("transform");
    mark(null);
    if (event.type === "pointercancel") return;
    if (far <= FARTHEST_CLICK) {
      location.assign(piece.dataset.href);
      return;
    }
    const column = onto(svg, event.clientX);
    if (column) send(piece, "move", column.dataset.at);
  };
  piece.setPointerCapture(down.pointerId);
  piece.addEventListener("pointermove", move);
  piece.addEventListener("pointerup", end);
  piece.addEventListener("pointercancel", end);
};

const prepare = () => {
  const svg = document.getElementById("minutes");
  if (!svg || svg.dataset.ready) return;
  svg.dataset.ready = "ready";
  document.getElementById("piece-keys").hidden = false;
  const next = svg.querySelector(".lesson-column.next");
  const box = svg.closest(".scroll");
  if (next && box) box.scrollLeft = Number(next.getAttribute("x")) - box.clientWidth / 3;
  const last = JSON.parse(sessionStorage.getItem(KEPT) || "null");
  for (const piece of svg.querySelectorAll(".piece")) {
    piece.classList.add("movable");
    piece.setAttribute("tabindex", "0");
    piece.setAttribute("role", "button");
    // A finger on a piece draws it, and doesn't scroll.
    piece.addEventListener("touchstart", (event) => event.preventDefault(), { passive: false });
    piece.addEventListener("pointerdown", (event) => {
      if (event.button === 0) draw(svg, piece, event);
    });
    piece.addEventListener("keydown", (event) => {
      if (event.ctrlKey || event.altKey || event.metaKey) return;
      if (event.key === "Enter") location.assign(piece.dataset.href);
      else if (KEYS[event.key]) send(piece, KEYS[event.key]);
      else return;
      event.preventDefault();
      event.stopPropagation();
    });
    if (last && piece.dataset.wish === last.wish && piece.dataset.number === last.number) piece.focus();
  }
};

prepare();
document.addEventListener("htmx:afterSettle", prepare);
