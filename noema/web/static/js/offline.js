// A student's own device without a link: pages are shown as they were last, and a photograph is kept
// and goes once the link is back. On a shared device nothing is kept. Uses upload.js's `reason`.
"use strict";

const STORE = "photographs";
const PAGES = "noema-own";
const KEEPER = "noema own device"; // whose pages are kept here

// The student whose own device this is; null on a shared one.
function ownDevice() {
  const band = document.querySelector("[data-own-device]");
  return band && "serviceWorker" in navigator ? band.dataset.ownDevice : null;
}

function opened() {
  return new Promise((done, failed) => {
    const asked = indexedDB.open(PAGES, 1);
    asked.onupgradeneeded = () => asked.result.createObjectStore(STORE, { autoIncrement: true });
    asked.onsuccess = () => done(asked.result);
    asked.onerror = () => failed(asked.error);
  });
}

async function inStore(mode, act) {
  const base = await opened();
  try {
    const asked = act(base.transaction(STORE, mode).objectStore(STORE));
    return await new Promise((done, failed) => {
      asked.onsuccess = () => done(asked.result);
      asked.onerror = () => failed(asked.error);
    });
  } finally {
    base.close();
  }
}

// What a student kept, by key: nobody else's is shown or sent.
async function keptOf(student) {
  const keys = await inStore("readonly", (store) => store.getAllKeys());
  const values = await inStore("readonly", (store) => store.getAll());
  return keys.map((key, i) => ({ key, ...values[i] })).filter((one) => one.student === student);
}

// Gives false where nothing can be kept: then whoever asks says so.
async function keepPhotograph(photograph) {
  const student = ownDevice();
  if (!student) return false;
  try {
    await inStore("readwrite", (store) => store.add({ student, ...photograph }));
  } catch {
    return false;
  }
  await tellKept();
  return true;
}

function tell(words) {
  const place = document.getElementById("kept-photographs");
  place.hidden = !words;
  place.textContent = words;
}

async function tellKept() {
  const kept = await keptOf(ownDevice());
  tell(kept.length ? gettext("Your photograph is kept on this device. It goes when the link is back.") : "");
}

// A page that was kept has an old token; and whose session is over sends nothing.
async function freshToken() {
  const answer = await fetch("/me");
  if (!answer.ok || answer.redirected) return null;
  const page = new DOMParser().parseFromString(await answer.text(), "text/html");
  const band = page.querySelector("[data-own-device]");
  return band && band.dataset.ownDevice === ownDevice() ? page.querySelector("input[name=csrf_token]").value : null;
}

let sending = false;

async function sendKept() {
  const student = ownDevice();
  if (sending || !student || !navigator.onLine) return;
  sending = true;
  try {
    const kept = await keptOf(student);
    const token = kept.length ? await freshToken() : null;
    if (!token) return;
    const refused = [];
    for (const { key, url, of, file } of kept) {
      const body = new FormData();
      body.append("photo", file, file.name);
      body.append("of", of);
      const answer = await fetch(url, { method: "POST", body, headers: { "X-CSRFToken": token, "HX-Request": "true" } });
      // The server looked at it and will not have it, now or later: the student is told why.
      if (answer.status === 413 || answer.status === 422) refused.push(await reason(answer));
      else if (!answer.ok || !answer.redirected) continue;
      await inStore("readwrite", (store) => store.delete(key));
    }
    await tellKept();
    if (refused.length) tell(refused.join(" "));
    else if (!(await keptOf(student)).length) tell(gettext("The photograph kept on this device has been handed in."));
  } catch {
    // The link went again: what is kept stays kept.
  } finally {
    sending = false;
  }
}

// Has what hangs on the list looked at once, with all it needs, so that the worker keeps it.
async function keepPages() {
  const exercises = [...document.querySelectorAll('main a[href^="/me/exercises/"]')].map((link) => link.pathname);
  const pages = ["/me", "/me/help", ...exercises, ...exercises.map((path) => `${path}/photograph`)];
  const needed = new Set();
  for (const path of new Set(pages)) {
    const answer = await fetch(path);
    if (!answer.ok) continue;
    const page = new DOMParser().parseFromString(await answer.text(), "text/html");
    for (const one of page.querySelectorAll("script[src], link[href], main img[src]"))
      needed.add(one.getAttribute("src") || one.getAttribute("href"));
  }
  for (const path of needed) await fetch(path);
}

async function forget() {
  localStorage.removeItem(KEEPER);
  await caches.delete(PAGES);
  const worker = await navigator.serviceWorker.getRegistration("/me");
  if (worker) await worker.unregister();
}

async function asksBeforeLeaving(event) {
  const form = event.target;
  if (!form.matches(".who")) return;
  event.preventDefault();
  const kept = await keptOf(ownDevice());
  if (kept.length && !confirm(gettext("Your photograph hasn't been handed in yet. Leave, and lose it?"))) return;
  await forget();
  form.submit();
}

async function setUp(student) {
  if (localStorage.getItem(KEEPER) !== student) await forget();
  localStorage.setItem(KEEPER, student);
  document.addEventListener("submit", asksBeforeLeaving);
  window.addEventListener("online", sendKept);
  await tellKept();
  await navigator.serviceWorker.register("/me/worker.js", { scope: "/me" });
  await navigator.serviceWorker.ready;
  await caches.open(PAGES);
  await sendKept();
  if (location.pathname === "/me") await keepPages();
}

document.addEventListener("DOMContentLoaded", async () => {
  const student = ownDevice();
  try {
    if (student) await setUp(student);
    else if ("serviceWorker" in navigator) await forget();
  } catch {
    // A browser that keeps nothing, or no link just now: pages work as long as there is one.
  }
});
