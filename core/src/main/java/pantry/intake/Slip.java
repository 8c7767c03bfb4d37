package pantry.intake;

import java.util.List;
import java.util.Optional;
import pantry.library.AssetKind;
import pantry.model.Axis;

/**
 * The choices made for an arrival.
 *
 * @param factor metres per unit of the file
 * @param allowMissing whether it may be shelved without textures that were not found
 * @param versionOf the id of the asset that it becomes the next version of; a new asset otherwise
 */
public record Slip(
        String name,
        AssetKind kind,
        String shelf,
        double factor,
        Axis up,
        PartsMode parts,
        Pivot pivot,
        List<String> tags,
        String licence,
        String credit,
        boolean allowMissing,
        ProcessingOptions making,
        Optional<String> versionOf) {
    /** Which scales there are, for a person. */
    public static final String SCALES = "a number greater than 0, from 1e-24 to 1e24";

    public Slip {
        if (name.isBlank()) {
            throw new IllegalArgumentException("an asset needs a name");
        }
        if (!isScale(factor)) {
            throw new IllegalArgumentException("the scale must be " + SCALES + ", not " + factor);
        }
        tags = List.copyOf(tags);
    }

    /** Whether a scale can be used: a volume by it is a number that can be divided by. */
    public static boolean isScale(double factor) {
        return factor >= 1e-24 && factor <= 1e24;
    }

    /** A slip with nothing chosen beyond what an asset must have. */
    public static Slip plain(String name, AssetKind kind, String shelf, double factor, Axis up) {
        return new Slip(
                name,
                kind,
                shelf,
                factor,
                up,
                PartsMode.KEEP,
                Pivot.KEEP,
                List.of(),
                "",
                "",
                false,
                ProcessingOptions.USUAL,
                Optional.empty());
    }

    public Slip withFactor(double f) {
        return new Slip(name, kind, shelf, f, up, parts, pivot, tags, licence, credit, allowMissing, making, versionOf);
    }

    public Slip withUp(Axis axis) {
        return new Slip(
                name, kind, shelf, factor, axis, parts, pivot, tags, licence, credit, allowMissing, making, versionOf);
    }

    public Slip withName(String n) {
        return new Slip(
                n, kind, shelf, factor, up, parts, pivot, tags, licence, credit, allowMissing, making, versionOf);
    }

    public Slip withKind(AssetKind k) {
        return new Slip(
                name, k, shelf, factor, up, parts, pivot, tags, licence, credit, allowMissing, making, versionOf);
    }

    public Slip withShelf(String s) {
        return new Slip(
                name, kind, s, factor, up, parts, pivot, tags, licence, credit, allowMissing, making, versionOf);
    }

    public Slip withParts(PartsMode mode) {
        return new Slip(
                name, kind, shelf, factor, up, mode, pivot, tags, licence, credit, allowMissing, making, versionOf);
    }

    public Slip withPivot(Pivot p) {
        return new Slip(
                name, kind, shelf, factor, up, parts, p, tags, licence, credit, allowMissing, making, versionOf);
    }

    public Slip withTags(List<String> t) {
        return new Slip(
                name, kind, shelf, factor, up, parts, pivot, t, licence, credit, allowMissing, making, versionOf);
    }

    public Slip withCredit(String l, String c) {
        return new Slip(name, kind, shelf, factor, up, parts, pivot, tags, l, c, allowMissing, making, versionOf);
    }

    public Slip withAllowMissing(boolean allow) {
        return new Slip(name, kind, shelf, factor, up, parts, pivot, tags, licence, credit, allow, making, versionOf);
    }

    public Slip withMaking(ProcessingOptions m) {
        return new Slip(name, kind, shelf, factor, up, parts, pivot, tags, licence, credit, allowMissing, m, versionOf);
    }

    public Slip withVersionOf(Optional<String> asset) {
        return new Slip(
                name, kind, shelf, factor, up, parts, pivot, tags, licence, credit, allowMissing, making, asset);
    }
}
