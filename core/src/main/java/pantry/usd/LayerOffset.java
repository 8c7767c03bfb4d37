package pantry.usd;

/** How a layer's time is shifted and stretched where another brings it in: {@code outer = inner * scale + offset}. */
public record LayerOffset(double offset, double scale) {
    public static final LayerOffset NONE = new LayerOffset(0, 1);

    /** This offset applied to times that have already passed through {@code inner}. */
    public LayerOffset after(LayerOffset inner) {
        return new LayerOffset(inner.offset * scale + offset, inner.scale * scale);
    }

    /** A time of the layer that is brought in, in the time of the one that brings it in. */
    public double outer(double inner) {
        return inner * scale + offset;
    }

    /** A time of the layer that brings in, in the time of the one that is brought in. */
    public double inner(double outer) {
        return (outer - offset) / scale;
    }
}
