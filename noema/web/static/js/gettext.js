// Says what scripts say in the language of the page: the page brings the messages along.
"use strict";

const catalogue = JSON.parse(document.getElementById("catalogue")?.textContent ?? "{}");

/** Say a message with its values filled in, as `%(name)s`. */
function gettext(message, values = {}) {
  return (catalogue[message] ?? message).replace(/%\((\w+)\)s/g, (_, name) => values[name]);
}
