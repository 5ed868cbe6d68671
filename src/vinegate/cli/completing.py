"""Words that a shell may offer: `source <(vinegate completion)`."""

from __future__ import annotations

import argparse
from typing import Final

from vinegate.cli.reading import Commands

_SCRIPT: Final = """# bash: source <(vinegate completion); zsh: autoload -U bashcompinit && bashcompinit first
_vinegate() {{
  local word="${{COMP_WORDS[COMP_CWORD]}}" words=""
  case "${{COMP_WORDS[*]:1:COMP_CWORD-1}}" in
{cases}
  esac
  COMPREPLY=($(compgen -W "$words" -- "$word"))
  if [[ ${{#COMPREPLY[@]}} -eq 0 && "$word" != -* ]]; then COMPREPLY=($(compgen -f -- "$word")); fi
}}
complete -o filenames -F _vinegate vinegate
"""


def add(commands: Commands, whole: argparse.ArgumentParser) -> None:
    """`completion`, of everything that `whole` knows."""
    one = commands.add_parser("completion", help="print what a shell needs to complete commands and options")
    one.set_defaults(run=lambda _: _print(whole))


def _print(whole: argparse.ArgumentParser) -> int:
    print(completion(whole), end="")
    return 0


def completion(whole: argparse.ArgumentParser) -> str:
    """The script: for each chain of commands its further commands, options and choices."""
    cases = [f'    "{chain}"*) words="{" ".join(words)}";;' for chain, words in reversed(_chains(whole, "")) if chain]
    top = next(words for chain, words in _chains(whole, "") if not chain)
    return _SCRIPT.format(cases="\n".join([*cases, f'    *) words="{" ".join(top)}";;']))


def _chains(parser: argparse.ArgumentParser, chain: str) -> list[tuple[str, list[str]]]:
    words, below = list[str](), list[tuple[str, list[str]]]()
    for action in parser._actions:
        words += action.option_strings
        if isinstance(action, argparse._SubParsersAction):
            for name, one in action.choices.items():
                words.append(name)
                below += _chains(one, f"{chain} {name}".strip())
        elif action.choices is not None and not isinstance(action, argparse._SubParsersAction):
            words += [str(choice) for choice in action.choices if choice is not None]
    return [(chain, words), *below]
