package pantry.demo;

/** Groups of MaterialX's nodes: a wood of boards, and a rust that shows in patches. */
final class NodeGroups {
    static final String WOOD = """
            <nodegraph name="Wood">
              <input name="light" type="color3" value="0.42, 0.25, 0.12"/>
              <input name="dark" type="color3" value="0.16, 0.08, 0.035"/>
              <input name="boards" type="float" value="5"/>
              <texcoord name="st" type="vector2"/>
              <place2d name="stretched" type="vector2">
                <input name="texcoord" type="vector2" nodename="st"/>
                <input name="scale" type="vector2" value="0.04, 0.6"/>
              </place2d>
              <fractal2d name="grain" type="float">
                <input name="texcoord" type="vector2" nodename="stretched"/>
                <input name="octaves" type="integer" value="4"/>
              </fractal2d>
              <remap name="share" type="float">
                <input name="in" type="float" nodename="grain"/>
                <input name="inlow" type="float" value="-0.7"/>
                <input name="inhigh" type="float" value="0.7"/>
              </remap>
              <extract name="across" type="float">
                <input name="in" type="vector2" nodename="st"/>
                <input name="index" type="integer" value="0"/>
              </extract>
              <multiply name="counted" type="float">
                <input name="in1" type="float" nodename="across"/>
                <input name="in2" type="float" interfacename="boards"/>
              </multiply>
              <fract name="within" type="float">
                <input name="in" type="float" nodename="counted"/>
              </fract>
              <smoothstep name="edge" type="float">
                <input name="in" type="float" nodename="within"/>
                <input name="low" type="float" value="0.01"/>
                <input name="high" type="float" value="0.04"/>
              </smoothstep>
              <mix name="grained" type="color3">
                <input name="bg" type="color3" interfacename="dark"/>
                <input name="fg" type="color3" interfacename="light"/>
                <input name="mix" type="float" nodename="share"/>
              </mix>
              <multiply name="board" type="color3">
                <input name="in1" type="color3" nodename="grained"/>
                <input name="in2" type="float" nodename="edge"/>
              </multiply>
              <remap name="rough" type="float">
                <input name="in" type="float" nodename="share"/>
                <input name="outlow" type="float" value="0.85"/>
                <input name="outhigh" type="float" value="0.5"/>
              </remap>
              <output name="colour" type="color3" nodename="board"/>
              <output name="roughness" type="float" nodename="rough"/>
            </nodegraph>
            """;

    /** Of two reds, dull, where its mask says. */
    static final String RUST = """
            <nodegraph name="Rust">
              <input name="light" type="color3" value="0.3, 0.09, 0.025"/>
              <input name="dark" type="color3" value="0.07, 0.02, 0.01"/>
              <texcoord name="st" type="vector2"/>
              <place2d name="patches" type="vector2">
                <input name="texcoord" type="vector2" nodename="st"/>
                <input name="scale" type="vector2" value="0.14, 0.2"/>
              </place2d>
              <fractal2d name="spread" type="float">
                <input name="texcoord" type="vector2" nodename="patches"/>
                <input name="octaves" type="integer" value="5"/>
              </fractal2d>
              <smoothstep name="shows" type="float">
                <input name="in" type="float" nodename="spread"/>
                <input name="low" type="float" value="0"/>
                <input name="high" type="float" value="0.12"/>
              </smoothstep>
              <place2d name="fine" type="vector2">
                <input name="texcoord" type="vector2" nodename="st"/>
                <input name="scale" type="vector2" value="0.02, 0.03"/>
              </place2d>
              <fractal2d name="specks" type="float">
                <input name="texcoord" type="vector2" nodename="fine"/>
                <input name="octaves" type="integer" value="3"/>
              </fractal2d>
              <remap name="share" type="float">
                <input name="in" type="float" nodename="specks"/>
                <input name="inlow" type="float" value="-0.6"/>
                <input name="inhigh" type="float" value="0.6"/>
              </remap>
              <mix name="tinted" type="color3">
                <input name="bg" type="color3" interfacename="dark"/>
                <input name="fg" type="color3" interfacename="light"/>
                <input name="mix" type="float" nodename="share"/>
              </mix>
              <constant name="dull" type="float">
                <input name="value" type="float" value="0.95"/>
              </constant>
              <constant name="no_metal" type="float">
                <input name="value" type="float" value="0"/>
              </constant>
              <output name="base_color" type="color3" nodename="tinted"/>
              <output name="roughness" type="float" nodename="dull"/>
              <output name="metalness" type="float" nodename="no_metal"/>
              <output name="mask" type="float" nodename="shows"/>
            </nodegraph>
            """;

    private NodeGroups() {}

    /** A document that holds a group and no surface. */
    static String document(String group) {
        return "<?xml version=\"1.0\"?>\n<materialx version=\"1.39\" colorspace=\"lin_rec709\">\n" + group
                + "</materialx>\n";
    }
}
