package pantry.usd;

import pantry.base.FileGate;

/** Where layers come from. A stage opens each layer once; implementations may share layers between stages. */
@FunctionalInterface
public interface Layers {
    /**
     * The layer at a place.
     *
     * @throws UsdException where there is none or it cannot be read
     */
    Layer open(AssetLocation location);

    /**
     * The place that an asset path names.
     *
     * @param anchor the layer that holds the path
     * @param asset as written: relative to the anchor, absolute, or to be searched for
     * @return what was named; it need not exist
     */
    default AssetLocation resolve(Layer anchor, String asset) {
        return AssetPaths.PLAIN.resolve(anchor, asset);
    }

    /** Which files may be read because the layers name them. */
    default FileGate gate() {
        return FileGate.OPEN;
    }
}
