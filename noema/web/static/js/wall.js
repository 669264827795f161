// Counts a part of the lesson down. Without this file its minutes and its end stand there.
"use strict";

const clock = document.getElementById("wall-clock");
if (clock) {
  const said = clock.textContent;
  const ends = Date.now() + clock.dataset.minutes * 60_000;
  const two = (number) => String(number).padStart(2, "0");
  const tick = () => {
    const left = Math.round((ends - Date.now()) / 1000);
    const over = left < 0 ? "+" : "";
    const seconds = Math.abs(left);
    clock.textContent = `${over}${Math.floor(seconds / 60)}:${two(seconds % 60)} · ${said}`;
  };
  tick();
  setInterval(tick, 1000);
}
