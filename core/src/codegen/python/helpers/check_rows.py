import sys

from .shown import shown
from .stop import stop


def check_rows(say, figure, at_least=None, at_most=None, stop_here=False):
    """Told where the figure is out of its limits, and where so wished all stops."""
    if (at_least is None or figure >= at_least) and (at_most is None or figure <= at_most):
        return
    if stop_here:
        stop(5, f"A check stops the run: {say} ({shown(float(figure))})")
    print(f"A check does not hold: {say} ({shown(float(figure))})", file=sys.stderr)
