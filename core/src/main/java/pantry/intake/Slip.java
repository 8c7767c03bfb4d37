package pantry.intake;

import java.util.List;
import pantry.exchange.Axis;
import pantry.library.AssetKind;

/**
 * The choices made for an arrival.
 *
 * @param factor metres per unit of the file
 * @param allowMissing whether it may be shelved without textures that were not found
 */
public record Slip(
        String name,
        AssetKind kind,
        String shelf,
        double factor,
        Axis up,
        PartsMode parts,
        List<String> tags,
        String licence,
        String credit,
        boolean allowMissing) {
    public Slip {
        if (name.isBlank()) {
            throw new IllegalArgumentException("an asset needs a name");
        }
        if (!(factor > 0) || Double.isInfinite(factor)) {
            throw new IllegalArgumentException("the scale must be a number greater than 0, not " + factor);
        }
        tags = List.copyOf(tags);
    }

    public Slip withFactor(double newFactor) {
        return new Slip(name, kind, shelf, newFactor, up, parts, tags, licence, credit, allowMissing);
    }

    public Slip withUp(Axis axis) {
        return new Slip(name, kind, shelf, factor, axis, parts, tags, licence, credit, allowMissing);
    }

    public Slip withName(String newName) {
        return new Slip(newName, kind, shelf, factor, up, parts, tags, licence, credit, allowMissing);
    }

    public Slip withShelf(String newShelf) {
        return new Slip(name, kind, newShelf, factor, up, parts, tags, licence, credit, allowMissing);
    }

    public Slip withParts(PartsMode mode) {
        return new Slip(name, kind, shelf, factor, up, mode, tags, licence, credit, allowMissing);
    }

    public Slip withTags(List<String> newTags) {
        return new Slip(name, kind, shelf, factor, up, parts, newTags, licence, credit, allowMissing);
    }

    public Slip withCredit(String newLicence, String newCredit) {
        return new Slip(name, kind, shelf, factor, up, parts, tags, newLicence, newCredit, allowMissing);
    }

    public Slip withAllowMissing(boolean allow) {
        return new Slip(name, kind, shelf, factor, up, parts, tags, licence, credit, allow);
    }
}
