package pantry.intake;

import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
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
        return changed(next -> next.factor = f);
    }

    public Slip withUp(Axis axis) {
        return changed(next -> next.up = axis);
    }

    public Slip withName(String n) {
        return changed(next -> next.name = n);
    }

    public Slip withKind(AssetKind k) {
        return changed(next -> next.kind = k);
    }

    public Slip withShelf(String s) {
        return changed(next -> next.shelf = s);
    }

    public Slip withParts(PartsMode mode) {
        return changed(next -> next.parts = mode);
    }

    public Slip withPivot(Pivot p) {
        return changed(next -> next.pivot = p);
    }

    public Slip withTags(List<String> t) {
        return changed(next -> next.tags = t);
    }

    public Slip withCredit(String l, String c) {
        return changed(next -> {
            next.licence = l;
            next.credit = c;
        });
    }

    public Slip withAllowMissing(boolean allow) {
        return changed(next -> next.allowMissing = allow);
    }

    public Slip withMaking(ProcessingOptions m) {
        return changed(next -> next.making = m);
    }

    public Slip withVersionOf(Optional<String> asset) {
        return changed(next -> next.versionOf = asset);
    }

    private Slip changed(Consumer<Builder> change) {
        Builder next = new Builder(this);
        change.accept(next);
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
