"""The state in which a figure was read: what makes two of them comparable, and what differs."""

from __future__ import annotations

from pydantic import ConfigDict

from ..base import RULEBOOK, Model


class Condition(Model):
    """One thing that was said of the state: its name, its value, and a detail where the value has one
    (turns of a valve).
    """

    model_config = ConfigDict(frozen=True)
    name: str
    value: str
    detail: str = ""

    @property
    def key(self) -> str:
        return f"{self.name}={self.value} {self.detail}" if self.detail else f"{self.name}={self.value}"

    @property
    def words(self) -> str:
        """For a person: the sentence of this value, else of this name with the value in it, else as it is
        kept.
        """
        named = f"state.{self.name}={self.value}"
        for text in (f"{named}+" if self.detail else named, f"state.{self.name}"):
            if text in RULEBOOK.texts:
                return RULEBOOK.texts[text].form.format(value=self.value, detail=self.detail)
        return self.key


class Conditions(Model):
    """A frozen state. Two figures compare when their conditions are the same."""

    model_config = ConfigDict(frozen=True)
    said: tuple[Condition, ...] = ()

    @classmethod
    def of(cls, **said: str | tuple[str, str] | None) -> Conditions:
        """The state from what was said of it; None was not said. A pair: the value and its detail."""
        rows = [(n, v if isinstance(v, tuple) else (v, "")) for n, v in sorted(said.items()) if v]
        return cls(said=tuple(Condition(name=n, value=v, detail=d) for n, (v, d) in rows))

    @classmethod
    def parse(cls, key: str) -> Conditions:
        """The state from its key.

        >>> Conditions.parse("at=starter;valve=throttled 3/8").get("at")
        'starter'
        """
        out = []
        for part in filter(None, key.split(";")):
            name, _, rest = part.partition("=")
            value, _, detail = rest.partition(" ")
            out.append(Condition(name=name, value=value, detail=detail))
        return cls(said=tuple(sorted(out, key=lambda c: c.name)))

    @property
    def key(self) -> str:
        """The canonical string: a series is found by it.

        >>> Conditions.of(valve=("throttled", "3/8"), at="starter", hz=None).key
        'at=starter;valve=throttled 3/8'
        """
        return ";".join(c.key for c in self.said)

    def get(self, name: str) -> str:
        """What was said under this name; empty where nothing was."""
        return next((c.value for c in self.said if c.name == name), "")

    def but(self, **other: str) -> Conditions:
        """The same state but for this."""
        return Conditions.of(**{c.name: (c.value, c.detail) for c in self.said} | other)

    def differs(self, other: Conditions) -> list[str]:
        """Under which names do both say something, and not the same?"""
        theirs = {c.name: c for c in other.said}
        return [c.name for c in self.said if c.name in theirs and theirs[c.name] != c]

    def unlike(self, other: Conditions) -> str:
        """In which words does this state differ from another? Empty when it does not."""
        return Conditions(said=tuple(c for c in self.said if c not in other.said)).words

    @property
    def words(self) -> str:
        """The state for a person.

        >>> Conditions.parse("at=motor;links=in;volts=500").words
        'at the motor, links in, 500 V'
        """
        return ", ".join(c.words for c in self.said)
