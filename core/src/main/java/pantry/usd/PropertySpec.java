package pantry.usd;

/** An attribute or relationship of a prim spec. */
public abstract sealed class PropertySpec extends Spec permits AttributeSpec, RelationshipSpec {
    private final String name;
    private boolean custom;

    PropertySpec(String name) {
        this.name = name;
    }

    public final String name() {
        return name;
    }

    public final boolean custom() {
        return custom;
    }

    public final void setCustom(boolean custom) {
        this.custom = custom;
    }

    abstract PropertySpec copy();
}
