// A cell pointed at in one picture lights up, by its outline, in all of them.
"use strict";

function light(cell) {
  document.querySelectorAll("[data-cell]").forEach((element) => {
    element.classList.toggle("lit", element.dataset.cell === cell);
  });
}

for (const kind of ["pointerover", "focusin"]) {
  document.addEventListener(kind, (event) => {
    const near = event.target.closest("[data-cell]");
    light(near ? near.dataset.cell : null);
  });
}
