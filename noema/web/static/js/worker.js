// Keeps a student's own pages on their own device, for when the link is gone: the newest comes first,
// what is kept only when there is no link. offline.js sets it up and takes it away.
"use strict";

const KEPT = "noema-own";
const SHOWN_OFFLINE = /^\/me(\/exercises\/\d+(\/photograph)?|\/help(\/pictures\/[\w-]+\.webp)?)?$/;

function isKept(url) {
  return url.origin === location.origin && (SHOWN_OFFLINE.test(url.pathname) || url.pathname.startsWith("/static/"));
}

async function newest(request) {
  try {
    const answer = await fetch(request);
    // offline.js makes the cache; once it is taken away, nothing more is kept.
    if (answer.ok && !answer.redirected && (await caches.has(KEPT))) {
      const copy = answer.clone();
      await (await caches.open(KEPT)).put(request.url, copy);
    }
    return answer;
  } catch (wrong) {
    const kept = await caches.match(request.url, { cacheName: KEPT, ignoreSearch: true });
    if (kept) return kept;
    throw wrong;
  }
}

self.addEventListener("install", () => self.skipWaiting());
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));
self.addEventListener("fetch", (event) => {
  const { request } = event;
  if (request.method === "GET" && !request.headers.has("HX-Request") && isKept(new URL(request.url)))
    event.respondWith(newest(request));
});
