"""Getting about a page by the keyboard alone, and choosing a technique in a dialog."""

from __future__ import annotations

from playwright.sync_api import Page

_FOCUSED = """
() => {
  const at = document.activeElement
  if (!at) return ''
  const label = at.labels && at.labels.length ? at.labels[0].textContent : ''
  return (at.getAttribute('aria-label') || label || at.textContent || '').trim()
}
"""


def focused(page: Page) -> str:
    """The name of what has the focus."""
    return str(page.evaluate(_FOCUSED))


def tab_to(page: Page, name: str, most: int = 120) -> None:
    """Press Tab until the focus is on what begins with `name`."""
    for _ in range(most):
        page.keyboard.press("Tab")
        if focused(page).startswith(name):
            return
    raise AssertionError(f"Tab does not reach “{name}”; the focus is on “{focused(page)}”")


def retype(page: Page, words: str) -> None:
    """Replace what the focused field holds."""
    page.keyboard.press("Control+a")
    page.keyboard.type(words)


def pick(page: Page, words: str) -> None:
    """Pick an option of the focused select by typing its first letters."""
    page.keyboard.type(words)
    shown = page.evaluate("() => document.activeElement.selectedOptions[0].textContent")
    assert str(shown).startswith(words), shown


def choose_technique(page: Page, label: str, name: str) -> None:
    """Open the techniques of a field and press one of them."""
    page.get_by_label(label, exact=False).and_(page.locator("button[aria-haspopup]")).click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("type a part of its name").fill(name)
    dialog.locator("button[aria-pressed]").filter(has_text=name).first.click()
    dialog.wait_for(state="detached")
