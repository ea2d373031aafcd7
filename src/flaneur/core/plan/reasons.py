"""Why a step is in a plan: what asks for it, in the words of the trade."""

from flaneur.core.book.schema import EngineBook
from flaneur.core.keys import StepRef, Verb
from flaneur.core.wording import within


class Reasons:
    """Why each component of a plan comes off, and each operation is done."""

    def __init__(
        self, book: EngineBook, scope: list[str], access: list[str], renewed: list[str]
    ) -> None:
        self.book, self.scope, self.access, self.renewed = book, scope, access, renewed

    def of(self, ref: str) -> str:
        """Why a step is there."""
        verb, key = StepRef.of(ref)
        if verb is not Verb.OPERATION:
            return self._of_component(key)
        needed = self.book.operations[key].needed_for
        inside = [k for k in needed if k in self.access]
        if not inside:
            return "for every job on this engine"
        chosen = [k for k in inside if k in self.scope] or inside
        return f"for the {within(self.book.components[chosen[0]].name)}"

    def _of_component(self, key: str) -> str:
        book = self.book
        if key in self.scope:
            return "chosen to be renewed" if key in self.renewed else "set right at its marks"
        for other in [*self.scope, *self.access]:  # what was chosen is the first reason
            component = book.components[other]
            name = within(component.name)
            if key in component.covered_by:
                return f"covers the {name}"
            if key in component.renew_with:
                return f"renewed with the {name}"
            if key in component.comes_with:
                return f"comes off together with the {name}"
        return "renewed whenever it is uncovered" if key in self.renewed else "in the way"
