// Passkeys: made on the account's page, used on the log-in page; not offered where a browser can't.
"use strict";

const can = isSecureContext && typeof globalThis.PublicKeyCredential?.parseCreationOptionsFromJSON === "function"
  && !/^[\d.]+$|:/.test(location.hostname); // they belong to a name, never to a number

async function send(url, token, body, type) {
  const headers = { "X-CSRFToken": token, Accept: "application/json", ...(type && { "Content-Type": type }) };
  const answer = await fetch(url, { method: "POST", headers, body });
  const text = await answer.text();
  if (answer.ok) return JSON.parse(text);
  const page = new DOMParser().parseFromString(text, "text/html");
  throw new Error(page.querySelector("[role=alert], .lead, p")?.textContent ?? "");
}

async function run(form, ask) {
  const said = form.querySelector("[role=status]");
  said.textContent = "";
  try {
    const { begin, keep } = form.dataset;
    const token = form.csrf_token.value;
    const made = await ask(await send(begin, token, new FormData(form)));
    location.href = (await send(keep, token, JSON.stringify(made.toJSON()), "application/json")).to;
  } catch (wrong) {
    said.textContent = wrong.name === "Error" ? wrong.message : gettext("That didn’t work: try again, or log in with your password.");
  }
}

const ways = {
  make: (options) => navigator.credentials.create({ publicKey: PublicKeyCredential.parseCreationOptionsFromJSON(options) }),
  use: (options) => navigator.credentials.get({ publicKey: PublicKeyCredential.parseRequestOptionsFromJSON(options) }),
};

for (const form of document.querySelectorAll("form[data-passkey]")) {
  form.hidden = !can;
  document.getElementById("no-passkeys")?.toggleAttribute("hidden", can);
  form.addEventListener("submit", (event) => {
    event.preventDefault();
    run(form, ways[form.dataset.passkey]);
  });
}
