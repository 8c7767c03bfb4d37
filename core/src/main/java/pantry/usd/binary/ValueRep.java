package pantry.usd.binary;

/**
 * How a field says where its value is: 64 bits, of which the highest say whether it is an array, stands in the payload
 * itself, is packed; then the type's number; the lowest 48 are the payload, an offset or the value.
 */
record ValueRep(long bits) {
    private static final long ARRAY = 1L << 63;
    private static final long INLINED = 1L << 62;
    private static final long PACKED = 1L << 61;
    private static final long PAYLOAD = (1L << 48) - 1;

    static ValueRep inlined(UsdcType type, int payload) {
        return new ValueRep(INLINED | (long) type.number << 48 | payload & 0xffff_ffffL);
    }

    static ValueRep at(UsdcType type, long offset) {
        return new ValueRep((long) type.number << 48 | offset & PAYLOAD);
    }

    static ValueRep arrayAt(UsdcType type, long offset, boolean packed) {
        return new ValueRep(ARRAY | (packed ? PACKED : 0) | (long) type.number << 48 | offset & PAYLOAD);
    }

    boolean isArray() {
        return (bits & ARRAY) != 0;
    }

    boolean isInlined() {
        return (bits & INLINED) != 0;
    }

    boolean isPacked() {
        return (bits & PACKED) != 0;
    }

    int typeNumber() {
        return (int) (bits >>> 48 & 0xff);
    }

    long payload() {
        return bits & PAYLOAD;
    }

    /** The value in an inlined payload. */
    int inlinedBits() {
        return (int) bits;
    }
}
