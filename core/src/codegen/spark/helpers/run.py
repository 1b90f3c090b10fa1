import re

from py4j.protocol import Py4JJavaError
from pyspark.errors import PySparkException

from .stop import stop


def run(story):
    """Runs the story; where a file or Spark fails, a sentence instead of a traceback."""
    try:
        story()
    except (PySparkException, Py4JJavaError) as error:
        text = str(error)
        told = re.findall(r"^(?:\w+\.)*\w*(?:Error|Exception)\b:? ?(.+)$", text, re.MULTILINE)
        stop(
            6,
            f"A file could not be read or written, or Spark failed: {(told[-1] if told else text.splitlines()[0]).strip()}",
        )
