// A card's QR code names the class and the card behind the hash, which no browser sends anywhere.
// Here it fills the form, and leaves the address so that no history keeps it. Cards printed earlier
// name them before the hash: they still open the door.
"use strict";

function fillIn() {
  const told = new URLSearchParams(location.hash.slice(1) || location.search);
  for (const [name, most] of [["code", 12], ["card", 60]]) {
    const field = document.querySelector(`input[name="${name}"]`);
    const said = (told.get(name) ?? "").replaceAll("-", " ").slice(0, most);
    if (field && said) field.value = said;
  }
  if (told.has("card")) history.replaceState(null, "", location.pathname);
}

fillIn();
// Another card, held before a page that is open already.
addEventListener("hashchange", fillIn);
