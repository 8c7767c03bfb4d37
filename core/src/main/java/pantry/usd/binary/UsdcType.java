package pantry.usd.binary;

import java.util.HashMap;
import java.util.Map;
import java.util.Optional;
import pantry.usd.ValueType;

/** The types of values by their numbers in the format. */
enum UsdcType {
    BOOL(1, "bool"),
    UCHAR(2, "uchar"),
    INT(3, "int"),
    UINT(4, "uint"),
    INT64(5, "int64"),
    UINT64(6, "uint64"),
    HALF(7, "half"),
    FLOAT(8, "float"),
    DOUBLE(9, "double"),
    STRING(10, "string"),
    TOKEN(11, "token"),
    ASSET(12, "asset"),
    MATRIX2D(13, "matrix2d"),
    MATRIX3D(14, "matrix3d"),
    MATRIX4D(15, "matrix4d"),
    QUATD(16, "quatd"),
    QUATF(17, "quatf"),
    QUATH(18, "quath"),
    DOUBLE2(19, "double2"),
    FLOAT2(20, "float2"),
    HALF2(21, "half2"),
    INT2(22, "int2"),
    DOUBLE3(23, "double3"),
    FLOAT3(24, "float3"),
    HALF3(25, "half3"),
    INT3(26, "int3"),
    DOUBLE4(27, "double4"),
    FLOAT4(28, "float4"),
    HALF4(29, "half4"),
    INT4(30, "int4"),
    DICTIONARY(31, "dictionary"),
    TOKEN_EDIT(32, ""),
    STRING_EDIT(33, ""),
    PATH_EDIT(34, ""),
    REFERENCE_EDIT(35, ""),
    INT_EDIT(36, ""),
    INT64_EDIT(37, ""),
    UINT_EDIT(38, ""),
    UINT64_EDIT(39, ""),
    PATHS(40, ""),
    TOKENS(41, "token[]"),
    SPECIFIER(42, ""),
    PERMISSION(43, ""),
    VARIABILITY(44, ""),
    SELECTIONS(45, ""),
    TIME_SAMPLES(46, ""),
    PAYLOAD(47, ""),
    DOUBLES(48, "double[]"),
    OFFSETS(49, ""),
    STRINGS(50, "string[]"),
    BLOCK(51, ""),
    VALUE(52, ""),
    UNREAD(53, ""),
    UNREAD_EDIT(54, ""),
    PAYLOAD_EDIT(55, ""),
    TIMECODE(56, "timecode"),
    PATH_EXPRESSION(57, "pathExpression"),
    RELOCATES(58, "");

    private static final Map<Integer, UsdcType> BY_NUMBER = new HashMap<>();
    private static final Map<String, UsdcType> BY_SHAPE = new HashMap<>();

    final int number;

    /** The type's name in the text format; empty for those that only fields of the format itself have. */
    final String usdName;

    static {
        for (UsdcType type : values()) {
            BY_NUMBER.put(type.number, type);
            if (!type.usdName.isEmpty() && !type.usdName.endsWith("[]")) {
                BY_SHAPE.put(type.usdName, type);
            }
        }
    }

    UsdcType(int number, String usdName) {
        this.number = number;
        this.usdName = usdName;
    }

    static Optional<UsdcType> of(int number) {
        return Optional.ofNullable(BY_NUMBER.get(number));
    }

    /** The type that holds values of a USD type, whose role (point, colour …) the format does not tell. */
    static Optional<UsdcType> holding(String usdName) {
        String plain = usdName.endsWith("[]") ? usdName.substring(0, usdName.length() - 2) : usdName;
        UsdcType own = BY_SHAPE.get(plain);
        if (own != null) {
            return Optional.of(own);
        }
        return ValueType.of(plain).map(type -> {
            if (type.rows() > 0) {
                return BY_SHAPE.get("matrix" + type.rows() + "d");
            }
            String scalar = type.scalar().name().toLowerCase(java.util.Locale.ROOT);
            return BY_SHAPE.get(type.width() == 1 ? scalar : scalar + type.width());
        });
    }

    boolean isQuaternion() {
        return this == QUATD || this == QUATF || this == QUATH;
    }
}
