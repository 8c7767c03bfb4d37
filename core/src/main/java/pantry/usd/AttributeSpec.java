package pantry.usd;

import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** A layer's opinion of an attribute: type, default value, time samples, connections. */
public final class AttributeSpec extends PropertySpec {
    private final String typeName;
    private boolean uniform;
    private @Nullable Value value;
    private final SortedMap<Double, Value> timeSamples = new TreeMap<>();
    private ListEdit<SdfPath> connections = ListEdit.none();

    public AttributeSpec(String name, String typeName) {
        super(name);
        this.typeName = typeName;
    }

    public String typeName() {
        return typeName;
    }

    public boolean uniform() {
        return uniform;
    }

    public AttributeSpec setUniform(boolean uniform) {
        this.uniform = uniform;
        return this;
    }

    /** The default value. */
    public Optional<Value> value() {
        return Optional.ofNullable(value);
    }

    public AttributeSpec setValue(@Nullable Value value) {
        this.value = value;
        return this;
    }

    /** Values by time code; live. */
    public SortedMap<Double, Value> timeSamples() {
        return timeSamples;
    }

    public ListEdit<SdfPath> connections() {
        return connections;
    }

    public AttributeSpec setConnections(ListEdit<SdfPath> connections) {
        this.connections = connections;
        return this;
    }

    @Override
    AttributeSpec copy() {
        AttributeSpec copy = new AttributeSpec(name(), typeName);
        copy.setCustom(custom());
        copy.uniform = uniform;
        copy.value = value;
        copy.timeSamples.putAll(timeSamples);
        copy.connections = connections;
        copyMetadataTo(copy);
        return copy;
    }
}
