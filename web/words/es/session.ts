import type { ENGLISH } from '../en/session.ts';

export const SPANISH: Record<keyof typeof ENGLISH, string> = {
  whatChangedForThoseIt: 'Qué cambió, para quien importa',
  ojoKeepsAnEyeOn:
    'Ojo está atento a documentos, listas y registros compartidos y avisa a las personas debidas, a tiempo para actuar y tan pocas veces que se lee.',
  marismaMuseum: 'Museo Marisma',
  aMadeUpMuseumTo: 'Un museo inventado para probar Ojo. Elige quién eres; la contraseña ya está puesta.',
  signIn: 'Entrar',
  nameOrEmailAddress: 'Nombre o dirección de correo',
  yourPage: 'tu página',
  welcome: 'Hola, {name}',
  youSignInAs: 'Elige la contraseña con la que entras, como {signsInAs}.',
  chooseAPassword: 'Tu contraseña',
  twelveAtLeast: 'Doce signos como mínimo. Lo mejor son varias palabras que recuerdes.',
  chooseIt: 'Elegirla y entrar',
  password: 'Contraseña',
  byTheHouse: 'Entrar con {name}',
  code: 'Código',
  codeHint: 'El que muestra ahora tu aplicación de autenticación, o uno de reserva.',
};
