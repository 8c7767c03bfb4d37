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

    /** A copy; values, which never change, are shared. */
    public final PropertySpec copy() {
        return copyAs(name);
    }

    /** A copy under another name. */
    public abstract PropertySpec copyAs(String newName);

    /** Whether the other says exactly the same. Lazy values are read for it. */
    public abstract boolean sameAs(PropertySpec other);

    final boolean sameDeclaration(PropertySpec other) {
        return name.equals(other.name) && custom == other.custom && sameMetadata(other);
    }
}
