"""The program at home on a desktop: what is written, read by the desktop's own validators where
they are on this machine, and what is left of it afterwards."""

import os
import re
import shutil
import subprocess
import sys
import tomllib
import unittest
from configparser import ConfigParser
from pathlib import Path
from unittest import mock
from xml.etree import ElementTree

from PIL import Image

from tests import scenes
from umber_compass import __version__
from umber_compass.cli.run import _parser, main
from umber_compass.demo.plans import DEMOS
from umber_compass.document import desktop_home
from umber_compass.document.desktop_home import ID, PLACES
from umber_compass.formats import plan_file
from umber_compass.words import Refusal

ODD = '/opt/our tools/100% "umber"/$run'


def entry(path):
    found = ConfigParser(interpolation=None, delimiters=("=",), strict=True)
    found.optionxform = str
    found.read_string(path.read_text())
    (section,) = found.sections()
    return found[section]


def words_of(command):
    """The words of an Exec key: the file's own escaping first, then the quoting, then the percent
    signs (Desktop Entry Specification 1.4). What the specification does not know is a fault."""
    assert not re.sub(r"\\\\|\\[sntr]", "", command).count("\\"), command
    text = command.replace("\\\\", "\\")
    found = re.findall(r'"((?:\\.|[^"\\])*)"|(\S+)', text)
    plain = [re.sub(r"\\(.)", r"\1", quoted) if quoted else bare for quoted, bare in found]
    assert not any(re.search(r"%(?![%fsuo])", word.replace("%%", "")) for word in plain), command
    return [word.replace("%%", "%") for word in plain]


class Packaged(unittest.TestCase):
    def test_an_installed_wheel_puts_the_same_files_in_the_same_places(self):
        project = tomllib.loads((Path(__file__).parents[2] / "pyproject.toml").read_text())
        shared = project["tool"]["hatch"]["build"]["targets"]["wheel"]["shared-data"]
        wanted = {f"umber_compass/assets/desktop/{n}": f"share/{p}" for n, p in PLACES.items()}
        self.assertEqual(shared, wanted)


class AtHome(scenes.InFolder):
    def setUp(self):
        super().setUp()
        self.home = self.folder / "share"

    def place(self, name):
        return self.home / PLACES[name]

    def test_all_of_it_is_written_and_all_of_it_is_taken_away(self):
        kept = self.home / "applications" / "other.desktop"
        kept.parent.mkdir(parents=True)
        kept.write_text("[Desktop Entry]\n")
        done = desktop_home.install(self.home, ["/usr/bin/umber-compass"])
        self.assertEqual(set(done.files), {self.home / p for p in PLACES.values()})
        self.assertTrue(all(p.is_file() for p in done.files))
        again = desktop_home.install(self.home, ["/usr/bin/umber-compass"])
        self.assertEqual(again.files, done.files)
        gone = desktop_home.remove(self.home)
        self.assertEqual(set(gone.files), set(done.files))
        self.assertFalse(any(p.exists() for p in done.files))
        self.assertTrue(kept.exists())
        self.assertEqual(desktop_home.remove(self.home), ((), ()))

    def test_the_entry_starts_this_program_whatever_its_path(self):
        for command in (["/usr/bin/umber-compass"], [ODD], [ODD, "-m", "umber_compass"]):
            desktop_home.install(self.home, command)
            menu, small = entry(self.place(f"{ID}.desktop")), entry(self.place(f"{ID}.thumbnailer"))
            self.assertEqual(words_of(menu["Exec"]), [*command, "open", "%f"])
            self.assertEqual(
                words_of(small["Exec"]), [*command, "thumbnail", "-s", "%s", "%u", "%o"]
            )
            self.assertEqual((menu["TryExec"], small["TryExec"]), (command[0],) * 2)
            self.assertEqual((menu["Icon"], menu["StartupWMClass"]), (ID, ID))
            self.assertEqual(menu["MimeType"].rstrip(";"), plan_file.MIME)
        with mock.patch.dict(os.environ, {"UMBER_LAUNCHER": "/home/me/umber"}):
            desktop_home.install(self.home)
        self.assertEqual(entry(self.place(f"{ID}.desktop"))["TryExec"], "/home/me/umber")

    def test_the_file_type_is_told_by_name_and_by_what_a_plan_holds(self):
        desktop_home.install(self.home, ["umber-compass"])
        (kind,) = ElementTree.parse(self.place(f"{ID}.mime.xml")).getroot()
        space = "{http://www.freedesktop.org/standards/shared-mime-info}"
        self.assertEqual(kind.get("type"), plan_file.MIME)
        self.assertEqual(kind.find(f"{space}glob").get("pattern"), f"*{plan_file.ENDING}")
        plan = DEMOS[0].plan.read_bytes()
        for match in kind.iter(f"{space}match"):
            value = match.get("value").encode().decode("unicode_escape").encode("latin-1")
            at = int(match.get("offset"))
            self.assertEqual(plan[at : at + len(value)], value)

    def test_version_and_commands_are_those_of_the_program(self):
        desktop_home.install(self.home, ["umber-compass"])
        told = ElementTree.parse(self.place(f"{ID}.metainfo.xml")).getroot()
        self.assertEqual(told.find("id").text, ID)
        self.assertEqual(told.find("releases/release").get("version"), __version__)
        self.assertEqual(told.find("launchable").text, f"{ID}.desktop")
        page = self.place("umber-compass.1").read_text()
        self.assertIn(f"Umber Compass {__version__}", page)
        named = set(re.findall(r"^\.TP\n\.B (\w+)$", page, re.MULTILINE))
        (commands,) = (a.choices for a in _parser()._subparsers._group_actions)
        self.assertEqual(named, set(commands))

    def test_the_desktops_own_validators_have_nothing_to_say(self):
        desktop_home.install(self.home, ["umber-compass"])
        asked = 0
        for tool, *rest in (
            ("desktop-file-validate", self.place(f"{ID}.desktop")),
            ("appstreamcli", "validate", "--no-net", self.place(f"{ID}.metainfo.xml")),
            ("xmllint", "--noout", self.place(f"{ID}.mime.xml"), self.place(f"{ID}.svg")),
            ("lexgrog", self.place("umber-compass.1")),
            ("man", "--warnings", "-l", self.place("umber-compass.1")),
        ):
            if shutil.which(tool) is None:
                continue
            done = subprocess.run([tool, *rest], capture_output=True, text=True)
            with self.subTest(tool):
                self.assertEqual((done.returncode, done.stderr), (0, ""), done.stdout)
            asked += 1
        if not asked:
            self.skipTest("none of the desktop's validators is on this machine")

    def test_a_folder_that_cannot_be_written_is_one_line_and_leaves_nothing(self):
        self.home.mkdir()
        (self.home / "man").write_text("in the way")
        with self.assertRaises(Refusal):
            desktop_home.install(self.home, ["umber-compass"])
        left = [p for p in self.home.rglob("*") if p.is_file() and p.name != "man"]
        self.assertEqual(left, [])


class Commands(scenes.InFolder):
    def run_with(self, *given):
        environment = {**os.environ, "XDG_DATA_HOME": str(self.folder / "share")}
        return subprocess.run(
            [sys.executable, "-m", "umber_compass", *map(str, given)],
            capture_output=True, text=True, env=environment, cwd=Path(__file__).parents[2],
        )  # fmt: skip

    def test_install_and_remove_by_command(self):
        said = self.run_with("install")
        self.assertEqual((said.returncode, "--user" in said.stderr), (1, True))
        self.assertEqual(self.run_with("install", "--user").returncode, 0)
        menu = self.folder / "share" / PLACES[f"{ID}.desktop"]
        self.assertTrue(menu.exists())
        self.assertEqual(self.run_with("install", "--remove").returncode, 0)
        self.assertFalse(menu.exists())

    def test_a_plan_is_shown_small_by_path_and_by_address(self):
        plan, out = self.folder / "a plan.umber", self.folder / "t.png"
        plan.write_bytes(DEMOS[0].plan.read_bytes())
        for given in (plan, plan.as_uri()):
            self.assertEqual(main(["thumbnail", "-s", "96", str(given), str(out)]), 0)
            with Image.open(out) as small:
                self.assertEqual(max(small.size), 96)
            out.unlink()
        for given in (self.sketch, self.folder / "gone.umber", "https://x.example/a.umber"):
            self.assertEqual(main(["thumbnail", str(given), str(out)]), 1)
            self.assertFalse(out.exists())
