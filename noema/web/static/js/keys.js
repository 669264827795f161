// Keyboard for the desk: an element with data-key is clicked, or focused if one can write in it.
// Without this file every element still works by mouse or Tab.
"use strict";

function isWriting(element) {
  return element.matches("textarea, select, input:not([type=hidden])");
}

function elementFor(key) {
  return [...document.querySelectorAll("[data-key]")].find((element) =>
    element.dataset.key.split(" ").includes(key),
  );
}

document.addEventListener("keydown", (event) => {
  if (isWriting(event.target)) {
    if (event.key === "Escape") event.target.blur();
    if (event.key === "Enter" && event.ctrlKey) event.target.form.requestSubmit();
    return;
  }
  if (event.ctrlKey || event.metaKey || event.altKey) return;
  if (event.key === "Enter" && event.target.matches("a, button")) return;
  const element = elementFor(event.key);
  if (!element) return;
  event.preventDefault();
  if (isWriting(element)) element.focus();
  else element.click();
});
