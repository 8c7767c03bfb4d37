package pantry.usd.edit;

import pantry.usd.Layer;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Specifier;
import pantry.usd.VariantSpec;
import pantry.usd.compose.Stage;

/** Where edits are made one after the other, each seeing what the ones before did. */
interface EditLog {
    /** The stage with the edits so far. */
    Stage stage();

    void run(LayerEdit edit);

    /** Makes a spec where there is none, and those above it. */
    default void ensure(Layer layer, SdfPath at, Specifier specifier) {
        if (layer.prim(at).isPresent()) {
            return;
        }
        SdfPath parent = at.parent();
        ensure(layer, parent, Specifier.OVER);
        switch (at.elements().getLast()) {
            case SdfPath.Element.Child(String name) ->
                run(LayerEdit.Child.of(layer, parent, name, new PrimSpec(specifier, "", name)));
            case SdfPath.Element.Variant(String set, String selection) ->
                run(LayerEdit.Variant.added(
                        layer,
                        parent,
                        set,
                        new VariantSpec(selection, new PrimSpec(Specifier.OVER, "", parent.name()))));
        }
    }
}
