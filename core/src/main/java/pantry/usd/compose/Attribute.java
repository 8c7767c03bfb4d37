package pantry.usd.compose;

import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import pantry.usd.AttributeSpec;
import pantry.usd.Layer;
import pantry.usd.ListEdit;
import pantry.usd.SdfPath;
import pantry.usd.Value;

/** A composed attribute. */
public final class Attribute {
    private final Prim prim;
    private final String name;
    private final List<Opinion> opinions;

    /** One layer's opinion. */
    record Opinion(AttributeSpec spec, Layer layer, IndexNode node) {}

    /** @param opinions strongest first; not empty */
    Attribute(Prim prim, String name, List<Opinion> opinions) {
        this.prim = prim;
        this.name = name;
        this.opinions = opinions;
    }

    public String name() {
        return name;
    }

    /** The USD type's name as the strongest opinion has it. */
    public String typeName() {
        return opinions.getFirst().spec().typeName();
    }

    public boolean uniform() {
        return opinions.stream().anyMatch(opinion -> opinion.spec().uniform());
    }

    /** The default value; where there is none, the earliest time sample; empty where blocked. */
    public Optional<Value> value() {
        return deciding().map(Attribute::ownValue).filter(value -> !(value instanceof Value.Block));
    }

    /** The file that an asset-valued attribute names, against the layer that names it. */
    public Optional<Path> file() {
        return deciding()
                .flatMap(opinion -> ownValue(opinion) instanceof Value.Asset(String path) && !path.isEmpty()
                        ? Optional.of(AssetPaths.resolve(opinion.layer(), path))
                        : Optional.empty());
    }

    private Optional<Opinion> deciding() {
        return opinions.stream()
                .filter(opinion -> opinion.spec().value().isPresent()
                        || !opinion.spec().timeSamples().isEmpty())
                .findFirst();
    }

    private static Value ownValue(Opinion opinion) {
        return opinion.spec()
                .value()
                .orElseGet(() -> opinion.spec().timeSamples().firstEntry().getValue());
    }

    /** The composed connections, as paths of the stage. */
    public List<SdfPath> connections() {
        List<SdfPath> connections = List.of();
        for (Opinion opinion : opinions.reversed()) {
            ListEdit<SdfPath> edit = opinion.spec().connections();
            connections = edit.map(path -> prim.toStage(opinion.node(), path)).applyTo(connections);
        }
        return connections;
    }

    /** The strongest opinion of a metadata field, such as {@code interpolation}. */
    public Optional<String> text(String field) {
        return opinions.stream()
                .flatMap(opinion -> opinion.spec().text(field).stream())
                .findFirst();
    }
}
