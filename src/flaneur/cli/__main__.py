"""python -m flaneur.cli"""

import sys

from flaneur.cli.commands import main

sys.exit(main())
