package pantry.exchange.usd;

import java.util.List;
import org.jspecify.annotations.Nullable;
import pantry.usd.AttributeSpec;
import pantry.usd.ListEdit;
import pantry.usd.PrimSpec;
import pantry.usd.SdfPath;
import pantry.usd.Value;

/** Writes the parts that UsdShade's networks are made of. */
final class ShaderSpecs {
    private ShaderSpecs() {}

    static PrimSpec shader(PrimSpec parent, String name, String id) {
        PrimSpec shader = parent.define("Shader", name);
        shader.set("token", "info:id", new Value.Token(id)).setUniform(true);
        return shader;
    }

    static void input(PrimSpec shader, String type, String name, @Nullable Value value) {
        shader.put(new AttributeSpec("inputs:" + name, type).setValue(value));
    }

    static void connect(PrimSpec prim, String type, String name, SdfPath source) {
        prim.put(new AttributeSpec(name, type).setConnections(ListEdit.explicit(List.of(source))));
    }
}
