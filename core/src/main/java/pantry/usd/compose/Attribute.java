package pantry.usd.compose;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.SortedSet;
import java.util.TreeSet;
import pantry.usd.AssetLocation;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.LayerOffset;
import pantry.usd.ListEdit;
import pantry.usd.SdfPath;
import pantry.usd.TimeSamples;
import pantry.usd.Value;
import pantry.usd.file.Assets;

/** A composed attribute. Times are those of the stage. */
public final class Attribute {
    private final Prim prim;
    private final String name;
    private final List<Heard> heard;

    /** One layer's opinion. */
    record Heard(AttributeSpec spec, LayerStack.Member member, IndexNode node) {
        LayerOffset time() {
            return node.link.offset().after(member.offset());
        }

        Layer layer() {
            return member.layer();
        }
    }

    /** @param heard strongest first; not empty */
    Attribute(Prim prim, String name, List<Heard> heard) {
        this.prim = prim;
        this.name = name;
        this.heard = heard;
    }

    public String name() {
        return name;
    }

    /** The USD type's name as the strongest opinion has it. */
    public String typeName() {
        return heard.getFirst().spec().typeName();
    }

    public boolean uniform() {
        return heard.getLast().spec().uniform();
    }

    public boolean custom() {
        return heard.stream().anyMatch(opinion -> opinion.spec().custom());
    }

    /** The value for a still: the default value; where there is none, the earliest time sample. Empty where blocked. */
    public Optional<Value> value() {
        for (Heard opinion : heard) {
            Optional<Value> value = opinion.spec().value();
            if (value.isPresent()) {
                return unblocked(value.get());
            }
            TimeSamples samples = opinion.spec().timeSamples();
            if (!samples.isEmpty()) {
                return samples.at(samples.first()).flatMap(Attribute::unblocked);
            }
        }
        return Optional.empty();
    }

    /** The default value alone; empty where blocked. */
    public Optional<Value> defaultValue() {
        return defaultValue(Anchoring.AS_WRITTEN);
    }

    Optional<Value> defaultValue(Anchoring anchoring) {
        for (Heard opinion : heard) {
            Optional<Value> value = opinion.spec().value();
            if (value.isPresent()) {
                return unblocked(value.get()).map(plain -> seen(plain, opinion, anchoring));
            }
        }
        return Optional.empty();
    }

    private Value seen(Value plain, Heard opinion, Anchoring anchoring) {
        return anchoring.seen(inStageTime(plain, opinion.time()), typeName(), opinion.layer());
    }

    /**
     * The value at a time: of the strongest layer with an opinion its time samples, interpolated, or else its default
     * value. Before the first sample and after the last those hold.
     */
    public Optional<Value> valueAt(double time) {
        return valueAt(time, Anchoring.AS_WRITTEN);
    }

    Optional<Value> valueAt(double time, Anchoring anchoring) {
        for (Heard opinion : heard) {
            TimeSamples samples = opinion.spec().timeSamples();
            if (!samples.isEmpty()) {
                return sample(samples, opinion.time().inner(time)).map(plain -> seen(plain, opinion, anchoring));
            }
            Optional<Value> value = opinion.spec().value();
            if (value.isPresent()) {
                return unblocked(value.get()).map(plain -> seen(plain, opinion, anchoring));
            }
        }
        return Optional.empty();
    }

    private Optional<Value> sample(TimeSamples samples, double time) {
        double before = samples.atOrBefore(time).orElseGet(samples::first);
        Optional<Value> value = samples.at(before).flatMap(Attribute::unblocked);
        Optional<Double> after = samples.after(time);
        if (value.isEmpty() || before >= time || after.isEmpty()) {
            return value;
        }
        Value later = samples.at(after.get()).orElseThrow();
        return Optional.of(
                Interpolation.between(value.get(), later, (time - before) / (after.get() - before), typeName()));
    }

    /** The times of the samples that {@link #valueAt} uses, rising; none where a stronger default value decides. */
    public SortedSet<Double> times() {
        SortedSet<Double> times = new TreeSet<>();
        for (Heard opinion : heard) {
            if (!opinion.spec().timeSamples().isEmpty()) {
                opinion.spec()
                        .timeSamples()
                        .times()
                        .forEach(time -> times.add(opinion.time().outer(time)));
                return times;
            }
            if (opinion.spec().hasValue()) {
                return times;
            }
        }
        return times;
    }

    private static Optional<Value> unblocked(Value value) {
        return value instanceof Value.Block ? Optional.empty() : Optional.of(value);
    }

    /** Whether the strongest opinion says that the weaker ones do not count. */
    public boolean isBlocked() {
        return heard.stream()
                .map(Heard::spec)
                .filter(AttributeSpec::hasValue)
                .findFirst()
                .flatMap(AttributeSpec::value)
                .filter(Value.Block.class::isInstance)
                .isPresent();
    }

    /** Time codes are times themselves, and move with their layer. */
    private Value inStageTime(Value value, LayerOffset offset) {
        if (offset.equals(LayerOffset.NONE) || !typeName().startsWith("timecode")) {
            return value;
        }
        return switch (value) {
            case Value.Real(double time) -> new Value.Real(offset.outer(time));
            case Value.Doubles(double[] times, int width) -> {
                double[] moved = new double[times.length];
                for (int i = 0; i < times.length; i++) {
                    moved[i] = offset.outer(times[i]);
                }
                yield new Value.Doubles(moved, width);
            }
            default -> value;
        };
    }

    /** Where the asset is that an asset-valued attribute names, against the layer that names it. */
    public Optional<AssetLocation> asset() {
        return value().flatMap(value -> value instanceof Value.Asset(String path) && !path.isEmpty()
                ? Optional.of(place(path))
                : Optional.empty());
    }

    /**
     * The file of the image that an asset-valued attribute names; a copy of it, where it is an entry of a package.
     *
     * @return empty where there is none, where it is no image, and where it may not be read
     * @throws pantry.usd.UsdException where a package cannot be read
     */
    public Optional<Path> image() {
        return value().orElse(null) instanceof Value.Asset(String written) && !written.isEmpty()
                ? image(written)
                : Optional.empty();
    }

    /** As above, of another path than the attribute's own, as if it stood there: of a tile of its image. */
    public Optional<Path> image(String written) {
        return Assets.image(
                place(written), written, deciding().layer(), prim.stage().gate());
    }

    /** The place that an asset path among this attribute's values names. */
    AssetLocation place(String written) {
        return prim.stage().resolve(deciding().layer(), written);
    }

    private Heard deciding() {
        return heard.stream()
                .filter(opinion -> opinion.spec().hasValue()
                        || !opinion.spec().timeSamples().isEmpty())
                .findFirst()
                .orElse(heard.getFirst());
    }

    /** The composed connections, as paths of the stage. */
    public List<SdfPath> connections() {
        List<SdfPath> connections = List.of();
        for (Heard opinion : heard.reversed()) {
            ListEdit<SdfPath> edit = opinion.spec().connections();
            if (!edit.isEmpty()) {
                connections = prim.inStage(name, opinion.node(), edit).applyTo(connections);
            }
        }
        return connections;
    }

    /** The strongest opinion of a metadata field. */
    public Optional<Value> metadata(String field) {
        return prim.propertyMetadata(name, field);
    }

    /** The strongest opinion of a text field, such as {@code interpolation}. */
    public Optional<String> text(String field) {
        return heard.stream()
                .flatMap(opinion -> opinion.spec().text(field).stream())
                .findFirst();
    }
}
