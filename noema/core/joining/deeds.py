"""What is kept on record of who did what at a school."""

from enum import Enum

from noema.core.language import N_


class Deed(Enum):
    """Something done that a school may have to answer for; the value is its name in files."""

    CAME_IN = "came in"
    FAILED = "turned away"
    PASSWORD_SET = "password set"
    PASSWORD_FORGOTTEN = "password forgotten"
    EMAIL_CHANGED = "e-mail changed"
    CODES_ON = "codes asked for"
    CODES_OFF = "codes not asked for"
    PASSKEY_ADDED = "passkey added"
    PASSKEY_REMOVED = "passkey removed"
    LOG_INS_ENDED = "log-ins ended"
    INVITED = "invited"
    ROLE_CHANGED = "role changed"
    DISABLED = "disabled"
    ENABLED = "enabled"
    REMOVED = "removed"
    CLASS_SHARED = "class shared"
    CLASS_UNSHARED = "class not shared"
    EXPORTED = "exported"
    ERASED = "erased"
    CARD_REPLACED = "card replaced"
    MAILED = "mailed"
    KEY_CHANGED = "key changed"

    @property
    def words(self) -> str:
        """Its name for people, to be looked up in the reader's language."""
        return _WORDS[self]


_WORDS = {
    Deed.CAME_IN: N_("came in"),
    Deed.FAILED: N_("couldn’t come in"),
    Deed.PASSWORD_SET: N_("set a password"),
    Deed.PASSWORD_FORGOTTEN: N_("asked for a new password"),
    Deed.EMAIL_CHANGED: N_("changed their e-mail"),
    Deed.CODES_ON: N_("is asked for codes from now on"),
    Deed.CODES_OFF: N_("is asked for codes no longer"),
    Deed.PASSKEY_ADDED: N_("added a passkey"),
    Deed.PASSKEY_REMOVED: N_("removed a passkey"),
    Deed.LOG_INS_ENDED: N_("ended log-ins"),
    Deed.INVITED: N_("invited"),
    Deed.ROLE_CHANGED: N_("changed a role"),
    Deed.DISABLED: N_("disabled"),
    Deed.ENABLED: N_("enabled"),
    Deed.REMOVED: N_("removed"),
    Deed.CLASS_SHARED: N_("shared a class"),
    Deed.CLASS_UNSHARED: N_("stopped sharing a class"),
    Deed.EXPORTED: N_("took data out"),
    Deed.ERASED: N_("erased"),
    Deed.CARD_REPLACED: N_("replaced a card"),
    Deed.MAILED: N_("mailed"),
    Deed.KEY_CHANGED: N_("changed a key"),
}
