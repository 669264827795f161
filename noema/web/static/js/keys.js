// Keyboard for the desk: an element with data-key is clicked, or focused if one can write in it.
// Without this file every element still works by mouse or Tab.
"use strict";

function isWriting(element) {
  return element.matches("textarea, select, input:not([type=hidden], [type=radio], [type=checkbox])");
}

function elementFor(key) {
  return [...document.querySelectorAll("[data-key]")].find((element) =>
    element.dataset.key.split(" ").includes(key),
  );
}

let early; // the first key pressed before the page was whole: it means what is on that page
const waiting = []; // keys pressed while an answer is on its way: they mean what is then shown
let leaving = false; // a second key must not undo a decision on its way

// What has just been shown takes keys a moment later, once htmx has bound it.
function isAsking() {
  return document.querySelector(".htmx-request, .htmx-swapping, .htmx-settling") !== null;
}

function use(key) {
  const element = elementFor(key);
  if (!element) return;
  if (isWriting(element)) element.focus();
  else element.click();
}

document.addEventListener("keydown", (event) => {
  if (isWriting(event.target)) {
    if (event.key === "Escape") event.target.blur();
    if (event.key === "Enter" && event.ctrlKey) event.target.form.requestSubmit();
    return;
  }
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  if (event.key === "Enter" && event.target.matches("a, button")) return;
  if (leaving) event.preventDefault();
  else if (document.readyState === "loading") early ??= event.key;
  else if (elementFor(event.key)) {
    event.preventDefault();
    if (isAsking()) waiting.push(event.key);
    else use(event.key);
  }
});

document.addEventListener("htmx:afterSettle", () => {
  while (waiting.length > 0 && !isAsking()) use(waiting.shift());
});

document.addEventListener("htmx:responseError", () => {
  waiting.length = 0;
});

document.addEventListener("DOMContentLoaded", () => {
  if (early) use(early);
});

window.addEventListener("submit", (event) => {
  leaving = !event.defaultPrevented;
});
window.addEventListener("pageshow", () => {
  leaving = false;
});
