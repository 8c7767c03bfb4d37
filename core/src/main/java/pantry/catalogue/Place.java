package pantry.catalogue;

/** Where in an asset's card a word is found; what is found in the first counts most. */
enum Place {
    NAME("name", 20),
    TAG("tag", 12),
    SHELF("shelf", 8),
    MATERIAL("material", 6),
    PART("part", 6),
    FIELD("field", 5),
    NOTES("notes", 4);

    private static final int[] WEIGHTS = weights();

    private final String word;
    private final int weight;

    Place(String word, int weight) {
        this.word = word;
        this.weight = weight;
    }

    String word() {
        return word;
    }

    byte mask() {
        return (byte) (1 << ordinal());
    }

    /** The weight of the best of several places. */
    static int weight(byte mask) {
        return WEIGHTS[mask & 0x7f];
    }

    private static int[] weights() {
        int[] weights = new int[128];
        for (int mask = 0; mask < weights.length; mask++) {
            for (Place place : values()) {
                if ((mask & place.mask()) != 0) {
                    weights[mask] = Math.max(weights[mask], place.weight);
                }
            }
        }
        return weights;
    }
}
