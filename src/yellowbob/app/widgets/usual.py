"""What a field is and what a usual figure in it is, for who rests the pointer on it.

The figures are the trade's rules of thumb, not limits: `[2 mm]` in the words is shown in the unit the maker reads.
"""

from __future__ import annotations

import re

from yellowbob.app.widgets.measures import Units
from yellowbob.ground.quantities import show

USUAL: dict[str, str] = {
    # outlines, cuts and parts
    "Point, from the nose": "where on the outline it lies; six to ten points draw most bodies",
    "Point, height or half-width": "bodies are mostly a fifth to a third as deep as long",
    "Section, from the nose": "where the section at the right is taken",
    "Fullness of the back": "2 is an ellipse, 1.6 sharp, 3 nearly square",
    "Fullness of the belly": "2 is an ellipse, 1.6 sharp, 3 nearly square",
    "Height of the widest part, 0 to 1": "0.5: half way up; lower is steadier",
    "New length": "one size up or down is mostly a tenth to a quarter",
    "Known length": "the whole body between the two clicked ends, measured with callipers",
    "depth": "a popper's cup a fifth to a third of its width; a lip's slot [4 mm] to [10 mm]",
    "diameter": "a cup four fifths to nine tenths of the head, so that a rim is left",
    "for varnish": "[0.3 mm] to [0.6 mm]: varnish pools in a cup",
    "height": "over the axis; below it is minus",
    "rim at": "0 for a face at the very nose",
    "slant": "0° to 20°; leaning back makes it dig less",
    "width": "left empty it is round",
    "angle": "a wake bait's lip 60° to 90° off the axis",
    "from nose": "a lip's slot [2 mm] to [10 mm] behind the nose",
    "long": "a wake bait's lip [12 mm] to [25 mm]",
    "wide": "a lip about as wide as the body",
    "thick": "a polycarbonate lip [1 mm] to [2 mm]; a metal wing [0.8 mm] to [1.5 mm]",
    "seat": "in the slot [4 mm] to [6 mm]",
    "density": "balsa 0.10 to 0.20 g/mL, cedar 0.32 to 0.38, alder 0.45, plastics 1.0 to 1.2, brass 8.5: weigh yours",
    "glue film": "[0.05 mm] to [0.15 mm]",
    "Ø front": "an antenna [1.5 mm] to [3 mm], a stem [2.5 mm] to [5 mm]",
    "Ø back": "an antenna [1.5 mm] to [3 mm], a stem [2.5 mm] to [5 mm]",
    "off centre": "[6 mm] to [10 mm]: where a wing's root stands beside the middle",
    "raise": "10° to 25° up at rest",
    "root": "[10 mm] to [15 mm]",
    "span": "each wing [20 mm] to [35 mm]",
    "sweep": "0° to 20°",
    "tip": "two thirds of the root",
    "twist": "0° to 8°: what makes a crawler crawl",
    "shift aft": "0 where it was drawn", "shift side": "0; off the middle it rolls", "shift up": "0 where it was drawn",
    "turn, x": "0°", "turn, y": "0°", "turn, z": "0°",
    # hardware, ballast, wire, finish
    "From the nose": "the belly hook a third back; belly ballast about under the middle of lift",
    "To starboard": "0: off the middle it lists",
    "Above the axis": "ballast as low as its hole can be drilled, a few mm under the skin",
    "Mass": "what the shelf says; yours on the scale is better",
    "Hole diameter": "the weight's own and [0.1 mm] to [0.3 mm]", "Hole depth": "the weight's own and [1 mm] to [2 "
                                                                                "mm] of plug",
    "Lean of the bit": "0°: square to the axis", "Length of the slug": "[5 mm] to [15 mm]",
    "How many lie there": "1", "Amount": "as many as hang there",
    "Gape, diameter or width": "from the shelf; hooks about as wide as the body",
    "Length along the wire or into the wood": "screw eyes [10 mm] to [16 mm]",
    "Length of the leader": "[300 mm] to [600 mm]",
    "Points along, 0 aft, 90 up": "a ring −90°: downwards", "Blade angle": "30° to 45°",
    "Play on the wire": "[0.5 mm] to [1 mm], so that it turns freely", "Room": "[0.5 mm] and more",
    "Hole or groove width": "the wire's own and [0.2 mm]",
    "Inside of the fore loop": "[3 mm] to [4 mm]", "Inside of the aft loop": "[3 mm] to [4 mm]",
    "Bend, from nose": "an end stands out [3 mm] to [6 mm] for its loop", "Bend, starboard": "0 in the centre plane",
    "Bend, height": "0 on the axis; [2 mm] off it keeps the wire from turning",
    "Turns of the fore loop": "3 to 5", "Turns of the aft loop": "3 to 5",
    "Number of coats": "sealer 1 or 2, paint 2 to 4, clear 1 to 3",
    "Dry film of one coat": "sealer [0.01 mm] to [0.03 mm], paint [0.01 mm] to [0.02 mm], clear epoxy [0.1 mm] to [0.2 mm]",
    "Soaked in, g/m²": "a first sealer 10 to 60 in open woods; later coats none",
    "Only aft of": "empty: the whole length", "Only forward of": "empty: the whole length",
    "Weighed before this coat": "the scale's reading, dry", "Weighed after, dry": "the scale's reading, dry",
    "Band from": "from the front end", "Band to": "a sight band [10 mm] to [25 mm] long",
    "Wanted total, hooks on": "six to nine tenths of the water it fills",
    "Mass at that stage": "what the scale shows, to 0.01 g",
    "A in the cup": "what was poured already", "B in the cup": "what was poured already",
    "Filler in the cup": "what was poured already", "Part A": "most are 1 to 1 by weight or by volume: read the can",
    "Part B": "most are 1 to 1 by weight or by volume: read the can",
    "Filler, %": "5 to 30 % micro-balloons, of A and B together",
    "Wanted density": "floating resin bodies 0.6 to 0.8 g/mL", "Wanted mass of the cast": "its volume and a tenth more",
    "Reading of length": "several readings: 50.2 50.3 50.2", "Reading of width": "several readings: 20.1 20.0",
    "Reading of height": "several readings: 15.0 15.1", "Reading of mass": "several readings: 6.21 6.22",
    # tank and action
    "Density of this piece": "what its own block weighed; from the shelf it may be a fifth off",
    "Water temperature": "5 to 25 °C", "Salinity, g/kg": "fresh 0, brackish 5 to 18, sea 35",
    "Bearing of the axis, 0 along the body, 90 across": "0° heels it, 90° pitches it",
    "Height of the throw": "[100 mm] to [500 mm]: held over the tank and let go",
    "Pitch of the throw": "any; nose up is plus", "Roll of the throw": "180°: upside down",
    "Wanted draft": "a popper's about its own depth", "Wanted pitch": "poppers 15° to 30°, wake baits and pencils 0° to 10°",
    "Wanted finished mass": "six to nine tenths of the water it fills",
    "Builds": "5000 tell shares to about 1 %", "Tip to show": "[5 mm] in calm water, [15 mm] and more in rough",
    "Drawn along by its front end": "0.3 to 1 m/s", "How far the line pulls from straight down": "0° to 30°",
    "Line pulls at, from the body's front": "the base of a waggler, the top and bottom of a stick float",
    "Speed at which it is looked at": "slow 0.3, usual 0.7, fast 1.5 m/s",
    "Height of the rod's tip over the water": "0.5 to 2 m", "Line paid out": "5 to 25 m",
    "How far the line slants down from the level": "0° to 20°; from a high rod more",
    "How far the tie is moved up and down": "[1 mm] to [3 mm]",
    "Height of the waves, trough to crest": "a ripple [50 mm], a chop [200 mm]",
    "Length of the waves, crest to crest": "ten to twenty times their height",
    "Current past a float held by its line": "0.1 to 0.5 m/s",
    "Speed as it leaves the rod": "light rods 15 to 20, heavy ones 25 to 35 m/s", "Angle over the level": "30° to 45°",
    # shop
    "Casts": "how many are poured at a time", "Copies": "2 or 3 of a new design",
    "Error that a straight cut may have": "[0.2 mm] to [0.5 mm]", "Fixed spacing instead": "[5 mm] to [10 mm]",
    "Humidity of its air": "40 to 60 %", "Temperature of the shop or warm box": "18 to 25 °C, a warm box 35 to 45",
    "Kerf of the saw": "bandsaw [0.8 mm] to [1.5 mm], table saw [3 mm]",
    "Longest piece that the lathe takes": "[200 mm] to [400 mm]", "Places on the turner": "4 to 12",
    "at": "where it was measured, from the nose", "back": "height over the axis there", "belly": "depth under the axis there",
    "off": "how far it is out of true: under [0.3 mm] is good work", "port": "half-width there",
        "starboard": "half-width there",
    # log
    "Came right": "of so many drops", "Drops": "ten, turned anyhow each time", "Chop": "[0 mm] to [300 mm]",
        "Current": "0 to 0.5 m/s",
    "Cost of its goods": "what was used up", "Hours": "1 to 6 a piece, hands on", "Hours just spent": "0.5 to 4",
    "Draft as read": "on a rule in the tank, to [0.5 mm]", "Pitch as read": "by a protractor or a picture, to 0.5°",
    "Hooked": "of the strikes", "Landed": "of the hooked", "Strikes": "all that rose",
    "How many": "1, or as many as one batch has", "Line down": "0° to 20°", "Line out": "5 to 25 m",
    "Mass on the scale": "to 0.01 g, dry", "Rod's tip at": "0.5 to 2 m over the water",
    "Swings in 10 s": "10 to 40", "Unstable from": "1 to 3 m/s: where it rolls over",
    "Fast, 0 none to 5 most": "3: as meant", "Slow, 0 none to 5 most": "3: as meant", "Pop, 0 none to 5 most": "3: as meant",
    "Sound, 0 none to 5 most": "3: as meant", "Wake, 0 none to 5 most": "3: as meant",
    # a brief
    "Length": "poppers [60 mm] to [100 mm], pencils to [150 mm], floats [120 mm] to [250 mm]",
    "Length may differ by so much": "5 to 20 %",
    "Finished mass, least": "six tenths of the water it fills", "Finished mass, most": "nine tenths of the water it fills",
    "Finished mass; empty: as suits it": "six to nine tenths of the water it fills",
    "The rod throws, least": "it stands on the rod: light [5 g], middling [10 g]",
    "The rod throws, most": "it stands on the rod: light [15 g], middling [30 g]",
    "Sits, nose up, least": "poppers 15°, wake baits −3°, pencils 0°", "Sits, nose up, most": "poppers 30°, wake "
                                                                                              "baits 5°, pencils 40°",
    "Sits, nose up; empty: as usual for it": "poppers 15° to 30°, wake baits and pencils 0° to 10°",
    "Draft, least": "empty unless the water is shallow or weedy", "Draft, most": "empty unless the water is shallow or weedy",
    "Drawn, least; 0 for the usual speeds": "0.3 m/s", "Drawn, most; 0 for the usual speeds": "1.5 m/s",
    "Carries; empty: as suits its size": "stick floats [2 g] to [5 g], antenna floats [5 g] to [15 g]",
}  # fmt: skip
"""By a field's name; of a cut or part (`cup: depth`) by what stands after its own name."""

TEXTS: dict[str, str] = {
    "Find a key by words": "such as bench or undo",
    "Find in the list": "any words of a name", "Name of the entry": "a name of your own, such as brass rod 6 mm",
    "Figures as field=value": "such as mass_g=0.85; what is left out is filled in",
    "Damage": "what broke, wore or leaked", "Find builds by words": "wood, words, what broke, a serial",
    "In your words": "whatever you would tell a friend of it", "Knot, in words": "such as loop knot",
        "Purpose": "what it is for",
    "Only builds that have all these words": "such as alder sealed", "Retrieve, in words": "such as stop and go",
    "Serial, made up when empty": "as you mark it on the blank", "Serials of the builds to compare": "two to six, "
                                                                                                     "with commas",
    "Speed, in words": "such as brisk; what it means is learnt", "What the picture shows": "such as at rest, from port",
    "Why it was lost, to whom it went, why it is set aside, or its board": "a line of words",
    "Wind, in words": "such as light breeze", "Fish": "such as perch", "Name": "as it is called", "Name of the new "
                                                                                                  "design": "as it "
                                                                                                            "shall be called",
    "Reason for setting it aside": "why this check does not count here; it is kept with the design",
}  # fmt: skip
"""Of fields that take words."""

_MARKED = re.compile(r"\[(-?[\d.]+) (mm|g)\]")


def _read(found: re.Match[str]) -> str:
    unit = Units.of("length" if found[2] == "mm" else "mass")
    return f"{found[1] if unit == found[2] else show(float(found[1]), unit)} {unit}"


def usual_of(name: str) -> str:
    """The usual figure of a field, in the maker's units; empty where none is known."""
    words = USUAL.get(name) or USUAL.get(name.rpartition(": ")[2]) or TEXTS.get(name) or ""
    return _MARKED.sub(_read, words)


def hover_of(name: str) -> str:
    """What a field says on hover: what it is, and what is usual."""
    usual = usual_of(name)
    return f"{name}. Usual: {usual}." if usual and name not in TEXTS else f"{name}: {usual}" if usual else name
