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
        Builder next = new Builder(this);
        next.factor = f;
        return next.build();
    }

    public Slip withUp(Axis axis) {
        Builder next = new Builder(this);
        next.up = axis;
        return next.build();
    }

    public Slip withName(String n) {
        Builder next = new Builder(this);
        next.name = n;
        return next.build();
    }

    public Slip withKind(AssetKind k) {
        Builder next = new Builder(this);
        next.kind = k;
        return next.build();
    }

    public Slip withShelf(String s) {
        Builder next = new Builder(this);
        next.shelf = s;
        return next.build();
    }

    public Slip withParts(PartsMode mode) {
        Builder next = new Builder(this);
        next.parts = mode;
        return next.build();
    }

    public Slip withPivot(Pivot p) {
        Builder next = new Builder(this);
        next.pivot = p;
        return next.build();
    }

    public Slip withTags(List<String> t) {
        Builder next = new Builder(this);
        next.tags = t;
        return next.build();
    }

    public Slip withCredit(String l, String c) {
        Builder next = new Builder(this);
        next.licence = l;
        next.credit = c;
        return next.build();
    }

    public Slip withAllowMissing(boolean allow) {
        Builder next = new Builder(this);
        next.allowMissing = allow;
        return next.build();
    }

    public Slip withMaking(ProcessingOptions m) {
        Builder next = new Builder(this);
        next.making = m;
        return next.build();
    }

    public Slip withVersionOf(Optional<String> asset) {
        Builder next = new Builder(this);
        next.versionOf = asset;
        return next.build();
    }

    /** This, with some of it changed. */
    private static final class Builder {
        private String name;
        private AssetKind kind;
        private String shelf;
        private double factor;
        private Axis up;
        private PartsMode parts;
        private Pivot pivot;
        private List<String> tags;
        private String licence;
        private String credit;
        private boolean allowMissing;
        private ProcessingOptions making;
        private Optional<String> versionOf;

        Builder(Slip from) {
            name = from.name;
            kind = from.kind;
            shelf = from.shelf;
            factor = from.factor;
            up = from.up;
            parts = from.parts;
            pivot = from.pivot;
            tags = from.tags;
            licence = from.licence;
            credit = from.credit;
            allowMissing = from.allowMissing;
            making = from.making;
            versionOf = from.versionOf;
        }

        Slip build() {
            return new Slip(
                    name,
                    kind,
                    shelf,
                    factor,
                    up,
                    parts,
                    pivot,
                    tags,
                    licence,
                    credit,
                    allowMissing,
                    making,
                    versionOf);
        }
    }
}
