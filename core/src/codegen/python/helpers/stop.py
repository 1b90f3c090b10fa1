import sys


def stop(exit_code, sentence):
    print(sentence, file=sys.stderr)
    sys.exit(exit_code)
