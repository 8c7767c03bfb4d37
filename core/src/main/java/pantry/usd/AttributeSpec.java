package pantry.usd;

import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;

/** A layer's opinion of an attribute: type, default value, time samples, connections. */
public final class AttributeSpec extends PropertySpec {
    private final String typeName;
    private boolean uniform;
    private @Nullable LazyValue value;
    private final TimeSamples timeSamples = new TimeSamples();
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

    /** The default value, which is read where it has not been. */
    public Optional<Value> value() {
        return Optional.ofNullable(value).map(LazyValue::get);
    }

    /** Whether there is a default value; does not read it. */
    public boolean hasValue() {
        return value != null;
    }

    public AttributeSpec setValue(@Nullable Value value) {
        this.value = value == null ? null : LazyValue.of(value);
        return this;
    }

    /** Gives the attribute a default value that is read when it is asked for. */
    public AttributeSpec setLazyValue(LazyValue value) {
        this.value = value;
        return this;
    }

    /** Values by time code; live. */
    public TimeSamples timeSamples() {
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
    public boolean sameAs(PropertySpec other) {
        return other instanceof AttributeSpec attribute
                && sameDeclaration(other)
                && typeName.equals(attribute.typeName)
                && uniform == attribute.uniform
                && Objects.equals(value, attribute.value)
                && timeSamples.equals(attribute.timeSamples)
                && connections.equals(attribute.connections);
    }

    @Override
    public AttributeSpec copyAs(String newName) {
        AttributeSpec copy = new AttributeSpec(newName, typeName);
        copy.setCustom(custom());
        copy.uniform = uniform;
        copy.value = value;
        copy.timeSamples.putAll(timeSamples);
        copy.connections = connections;
        copyMetadataTo(copy);
        return copy;
    }
}
