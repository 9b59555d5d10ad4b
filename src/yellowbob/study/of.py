"""Every result by its name: `of.rests(study)`. A result entered in its room's file here is found in this module too."""

from yellowbob.study.action import *
from yellowbob.study.afloat import *
from yellowbob.study.drawn import *
from yellowbob.study.evidence import *
from yellowbob.study.fitout import *
from yellowbob.study.lines import *
from yellowbob.study.rig import *
from yellowbob.study.weights import *
