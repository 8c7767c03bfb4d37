package pantry.mesh;

/**
 * Numbers that go with a mesh, such as normals or texture coordinates.
 *
 * @param data element by element, {@code width} numbers each; shared, not copied
 * @param per what one element belongs to
 */
public record Channel(float[] data, int width, Per per) {
    /** What has a value of its own; the standard's interpolations. */
    public enum Per {
        MESH("constant"),
        FACE("uniform"),
        POINT("vertex"),
        CORNER("faceVarying");

        private final String interpolation;

        Per(String interpolation) {
            this.interpolation = interpolation;
        }

        /** The word that OpenUSD has for it. */
        public String interpolation() {
            return interpolation;
        }

        /** By OpenUSD's word; {@code varying} is {@code vertex} for polygons. */
        public static Per of(String interpolation) {
            return switch (interpolation) {
                case "constant" -> MESH;
                case "uniform" -> FACE;
                case "faceVarying" -> CORNER;
                default -> POINT;
            };
        }
    }

    public Channel {
        if (width <= 0 || data.length % width != 0) {
            throw new IllegalArgumentException(data.length + " numbers are no elements of " + width);
        }
    }

    /** Other numbers for the same elements. */
    public Channel with(float[] others) {
        return new Channel(others, width, per);
    }

    /** The number of elements. */
    public int size() {
        return data.length / width;
    }

    /** Which element a corner of a face takes. */
    public int element(int face, int corner, int point) {
        return switch (per) {
            case MESH -> 0;
            case FACE -> face;
            case POINT -> point;
            case CORNER -> corner;
        };
    }
}
