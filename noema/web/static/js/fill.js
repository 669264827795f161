// A file chosen beside a text field is read into it. Without this file one pastes.
"use strict";

const MOST_BYTES = 1024 * 1024;

document.addEventListener("change", async (event) => {
  const field = document.getElementById(event.target.dataset?.fills ?? "");
  const file = event.target.files?.[0];
  if (!field || !file) return;
  event.stopPropagation();
  field.value = file.size > MOST_BYTES ? "" : await file.text();
  field.dispatchEvent(new Event("change", { bubbles: true }));
}, true);
