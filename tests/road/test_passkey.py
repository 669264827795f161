"""A teacher makes a passkey on a device, comes in by it, and takes it away again."""

from playwright.sync_api import expect

from noema.store.passkeys import passkeys_of
from tests.road.browser import log_in, opened
from tests.trade import PASSWORD

DEVICE = {
    "protocol": "ctap2",
    "transport": "internal",
    "hasResidentKey": True,
    "hasUserVerification": True,
    "isUserVerified": True,
    "automaticPresenceSimulation": True,
}


def test_a_passkey_stands_for_the_password_until_it_is_removed(address, school):
    by_name = address.replace("127.0.0.1", "localhost")  # no passkey belongs to a number
    with opened(by_name, refused="status of 403") as page:
        device = page.context.new_cdp_session(page)
        device.send("WebAuthn.enable")
        device.send("WebAuthn.addVirtualAuthenticator", {"options": DEVICE})
        log_in(page, school)
        page.goto("/account")
        made = page.locator("form[data-passkey]")
        made.get_by_label("Your password").fill(PASSWORD)
        made.get_by_role("button", name="Make a passkey").click()
        expect(page.get_by_role("button", name="Remove it")).to_have_count(1)
        with school.sessions() as session:
            [kept] = passkeys_of(session, school.teacher_id)

        page.get_by_role("button", name="Log out").click()
        page.get_by_role("button", name="Use a passkey").click()
        expect(page.get_by_role("heading", name="What waits")).to_be_visible()
        with school.sessions() as session:
            [used] = passkeys_of(session, school.teacher_id)
        assert used.uses > kept.uses

        page.goto("/account")
        page.get_by_role("button", name="Remove it").click()
        expect(page.get_by_role("button", name="Remove it")).to_have_count(0)
        page.get_by_role("button", name="Log out").click()
        with page.expect_response("**/log-in/passkey") as refused:
            page.get_by_role("button", name="Use a passkey").click()
        assert refused.value.status == 403
        expect(page.get_by_text("That passkey lets nobody in here")).to_be_visible()
