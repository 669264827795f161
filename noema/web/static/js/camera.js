// A pile of sheets, photographed one after another. Without this file, or a camera, one chooses
// files. Uses finder.js and upload.js's `post`.
"use strict";

class Pile {
  constructor(section) {
    this.section = section;
    this.count = 0;
    this.finder = new Finder(section, (still) => this.keep(still), () => {});
  }

  async keep(still) {
    const { token } = this.finder;
    this.batch ??= (await post(this.section.dataset.begin, new FormData(), token)).batch;
    const body = new FormData();
    body.append("photo", still, `camera-${this.batch}-${this.count + 1}.jpg`);
    const outcome = await post(`/batches/${this.batch}/photos`, body, token);
    if (outcome.state === "kept") this.count += 1;
    return this.said(outcome);
  }

  said(outcome) {
    const words = outcome.state === "kept" ? gettext("Taken; aim at the next sheet.") : outcome.words;
    if (!this.count) return [words];
    const link = document.createElement("a");
    link.href = `${this.section.dataset.batch}?batch=${this.batch}`;
    link.textContent = this.count === 1 ? gettext("See the photograph being read") : gettext("See the %(count)s photographs being read", { count: this.count });
    return [`${words} `, link];
  }
}

document.addEventListener("DOMContentLoaded", () => {
  const section = document.getElementById("camera");
  if (section) new Pile(section).finder.start();
});
