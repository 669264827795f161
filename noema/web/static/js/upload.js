// Sends dropped photographs one by one, so that a slow link or one bad file stops nothing.
// Without this file the form sends them all at once.
"use strict";

// The sentence with which the server refused.
async function reason(answer) {
  const page = new DOMParser().parseFromString(await answer.text(), "text/html");
  return page.querySelector(".notice")?.textContent ?? gettext("It could not be sent: try again.");
}

async function post(url, body, token) {
  const answer = await fetch(url, { method: "POST", body, headers: { "X-CSRFToken": token, "HX-Request": "true" } });
  if (!answer.ok) throw new Error(await reason(answer));
  return answer.json();
}

const ASK_MS = 80; // between questions whether a look's answer is there
const MOST_ASKED = 60;

async function seenAt(where) {
  for (let asked = 0; asked < MOST_ASKED; asked += 1) {
    await new Promise((done) => setTimeout(done, ASK_MS));
    const answer = await fetch(where);
    if (answer.status === 200) return answer.json();
    if (answer.status !== 202) break;
  }
  throw new Error("no answer");
}

function say(list, name, words) {
  const line = document.createElement("li");
  const who = document.createElement("b");
  who.textContent = name;
  line.append(who, " ", words);
  list.append(line);
}

async function sendOne(form, batch, file, token, outcomes) {
  const body = new FormData();
  body.append("photo", file);
  try {
    const outcome = await post(`/batches/${batch}/photos`, body, token);
    if (outcome.state === "kept") return true;
    say(outcomes, file.name, outcome.state === "refused" ? `${gettext("was not taken.")} ${outcome.words}` : outcome.words);
  } catch (wrong) {
    say(outcomes, file.name, wrong.message);
  }
  return false;
}

async function sendAll(form) {
  const files = [...form.photos.files];
  const token = form.csrf_token.value;
  const sending = form.querySelector("#sending");
  const outcomes = form.querySelector("#outcomes");
  outcomes.replaceChildren();
  if (files.length > Number(form.dataset.most)) {
    sending.textContent = gettext("Choose at most %(most)s photographs at once.", { most: form.dataset.most });
    return;
  }
  const beginning = new FormData();
  if (form.card) beginning.append("card", form.card.value);
  const { batch } = await post(form.dataset.begin, beginning, token);
  let kept = 0;
  for (const [index, file] of files.entries()) {
    sending.textContent = gettext("Sending %(number)s of %(count)s …", { number: index + 1, count: files.length });
    if (await sendOne(form, batch, file, token, outcomes)) kept += 1;
  }
  sending.textContent = `${kept} of ${files.length} taken.`;
  form.photos.value = "";
  if (outcomes.children.length === 0) location.assign(`${form.dataset.page}?batch=${batch}`);
  else htmx.ajax("GET", `/batches/${batch}`, { target: "#batch", swap: "outerHTML" });
}

document.addEventListener("DOMContentLoaded", () => {
  const form = document.getElementById("drop");
  if (!form) return;
  form.addEventListener("submit", (event) => {
    event.preventDefault();
    sendAll(form).catch((wrong) => {
      form.querySelector("#sending").textContent = wrong.message;
    });
  });
  for (const kind of ["dragover", "drop"]) {
    form.addEventListener(kind, (event) => {
      event.preventDefault();
      form.classList.toggle("over", kind === "dragover");
      if (kind === "drop" && event.dataTransfer.files.length) {
        form.photos.files = event.dataTransfer.files;
        form.requestSubmit();
      }
    });
  }
});
