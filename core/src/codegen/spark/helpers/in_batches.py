import sys
import zipimport


def in_batches(df, run, schema):
    """The frame that `run` makes of the rows of a partition, which come as pandas frames of some rows each."""

    def begin(batches):
        forget_archives()
        yield from run(batches)

    return df.mapInPandas(begin, schema)


def forget_archives():
    """Before each task Python reads anew what lies in every archive on its path, Spark's own among them: 0.2 s for nothing, as all is imported."""
    for path, finder in list(sys.path_importer_cache.items()):
        if isinstance(finder, zipimport.zipimporter):
            del sys.path_importer_cache[path]
